package formats

import (
	"bytes"
	"encoding/json"
	"io"
	"strings"

	"umberfrost/internal/craft/recipe"
)

// RecipeName and RecipeVersion stand at the head of every recipe file.
const (
	RecipeName    = "umberfrost-recipe"
	RecipeVersion = 1
)

// MaxRecipeBytes is the largest recipe file that is read.
const MaxRecipeBytes = 4 << 20

// recipeFile is a recipe of a shop's own, with all its versions, as a file.
type recipeFile struct {
	Format  string     `json:"format"`
	Version int        `json:"version"`
	Recipe  recipe.Own `json:"recipe"`
}

// WriteRecipe writes a recipe file, indented, for people to read as well. People are of a shop, and stay there.
func WriteRecipe(to io.Writer, own recipe.Own) error {
	versions := make([]recipe.OwnVersion, len(own.Versions))
	for i, v := range own.Versions {
		versions[i] = v
		versions[i].Person = nil
	}
	own.Versions = versions
	encoder := json.NewEncoder(to)
	encoder.SetIndent("", "  ")
	encoder.SetEscapeHTML(false)
	return encoder.Encode(recipeFile{RecipeName, RecipeVersion, own})
}

// ReadRecipe reads a recipe file. It fails with *Invalid on anything that is not understood here: what a newer version
// says is refused by name, never dropped in silence. A recipe that is read composes.
func ReadRecipe(from io.Reader) (recipe.Own, error) {
	data, err := io.ReadAll(io.LimitReader(from, MaxRecipeBytes+1))
	if err != nil {
		return recipe.Own{}, err
	}
	if len(data) > MaxRecipeBytes {
		return recipe.Own{}, invalid("", "the file is larger than %d MiB", MaxRecipeBytes>>20)
	}
	var head struct {
		Format  string `json:"format"`
		Version int    `json:"version"`
	}
	if err := json.Unmarshal(data, &head); err != nil {
		return recipe.Own{}, invalid("", "it is not JSON as it should be: %v", err)
	}
	switch {
	case head.Format != RecipeName:
		return recipe.Own{}, invalid("/format", "must be %s", RecipeName)
	case head.Version > RecipeVersion:
		return recipe.Own{}, invalid("/version", "it is of version %d, written by a newer Umberfrost; this one reads version %d",
			head.Version, RecipeVersion)
	case head.Version < 1:
		return recipe.Own{}, invalid("/version", "must be %d", RecipeVersion)
	}
	var file recipeFile
	decoder := json.NewDecoder(bytes.NewReader(data))
	decoder.DisallowUnknownFields()
	if err := decoder.Decode(&file); err != nil {
		return recipe.Own{}, invalid("/recipe", "it says something that is not understood here: %s",
			strings.TrimPrefix(err.Error(), "json: "))
	}
	own := file.Recipe
	for i := range own.Versions {
		own.Versions[i].At, own.Versions[i].Person = own.Versions[i].At.UTC(), nil
	}
	var wrong Invalid
	for _, f := range own.Check() {
		wrong.Faults = append(wrong.Faults, Fault{"/recipe/" + f.Path, f.Message})
	}
	if len(wrong.Faults) > 0 {
		return recipe.Own{}, &wrong
	}
	return own, nil
}
