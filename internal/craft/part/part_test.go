package part

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestMetals(t *testing.T) {
	require.NoError(t, Check())
	m, err := FindMetal("aluminium-bare")
	require.NoError(t, err)
	assert.Equal(t, Metal{ID: "aluminium-bare", Name: "Aluminium, bare", Kind: "solid", Strip: "grease only",
		Brush: []string{"fepa:P240", "fepa:P320", "fepa:P400", "nonwoven:very-fine"}, Agent: "weak-alkali", EtchLeast: 1, EtchMost: 5,
		Neutralise: "rinse; weak vinegar; rinse; dry", Seal: "acrylic-lacquer", Note: m.Note}, m)
	chrome, err := FindMetal("chrome-plated")
	require.NoError(t, err)
	assert.Empty(t, chrome.Agent, "nothing of a workshop darkens it")
	assert.Empty(t, chrome.Seal)
	_, err = FindMetal("mithril")
	assert.ErrorContains(t, err, `"mithril"`)
	assert.Len(t, Metals(), 16)
}

func TestPlastics(t *testing.T) {
	p, err := FindPlastic("celluloid-part")
	require.NoError(t, err)
	assert.Equal(t, Plastic{ID: "celluloid-part", Name: "Celluloid binding, plate or pick", Kind: "binding",
		Dull: []string{"fepa:P600", "fepa:P1000", "nonwoven:ultra-fine"}, Stain: "spirit dye, thin", StainLeast: 1, StainMost: 5,
		WipeBack: "alcohol on a cloth, at once", HeatMost: 50, Prime: p.Prime, Note: p.Note}, p)
	acetal, err := FindPlastic("acetal-part")
	require.NoError(t, err)
	assert.Empty(t, acetal.Stain)
	_, err = FindPlastic("putty")
	assert.ErrorContains(t, err, `"putty"`)
	assert.Len(t, Plastics(), 20)
}

func TestWhatIsWrongInTheTablesIsNamed(t *testing.T) {
	_, err := parseMetals(strings.Replace(metalRows, "weak-alkali,1,5", "weak-alkali,9,5", 1))
	assert.ErrorContains(t, err, "etch_min_most")
	_, err = parseMetals(strings.Replace(metalRows, "fepa:P240 fepa:P320 fepa:P400 nonwoven:very-fine,weak-alkali", "fepa:P7,weak-alkali",
		1))
	assert.ErrorContains(t, err, "brush_grits")
	_, err = parsePlastics(strings.Replace(plasticRows, ",adhesion-promoter,", ",porridge,", 1))
	assert.ErrorContains(t, err, "prime_family")
}
