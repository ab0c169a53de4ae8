package changes_test

import (
	"reflect"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/changes"
)

func TestEachRoleMayWhatTheLesserMay(t *testing.T) {
	t.Parallel()
	for i, role := range access.Roles {
		for k, need := range access.Roles {
			assert.Equal(t, i >= k, role.May(need), "%s for %s", role, need)
		}
	}
	assert.False(t, access.Role("").May(access.RoleLook))
	assert.False(t, access.Role("owner").May(access.RoleLook))
	move := changes.Changes{Changes: []changes.Change{{Kind: "pin"}, {Kind: "unpin"}}}
	assert.NoError(t, changes.CheckMoves(access.Caller{Role: access.RoleBench}, move))
	move.Changes = append(move.Changes, changes.Change{Kind: "week"})
	assert.Error(t, changes.CheckMoves(access.Caller{Role: access.RoleBench}, move), "one of them is more than a move")
	assert.NoError(t, changes.CheckMoves(access.Caller{Role: access.RoleShop}, move))
}

// The document of the API lists the kinds of entry, as the log has them.
func TestEveryKindOfEntryIsInTheDocument(t *testing.T) {
	t.Parallel()
	field, _ := reflect.TypeFor[changes.Entry]().FieldByName("Kind")
	assert.ElementsMatch(t, job.EntryKinds(), strings.Split(field.Tag.Get("enum"), ","))
	assert.ElementsMatch(t, job.EntryKinds(), changes.EntryKinds())
}

// The document of the API lists the kinds of change, as they can be read.
func TestEveryKindOfChangeIsInTheDocument(t *testing.T) {
	t.Parallel()
	field, _ := reflect.TypeFor[changes.Change]().FieldByName("Kind")
	assert.ElementsMatch(t, strings.Split(field.Tag.Get("enum"), ","), changes.Kinds())
}
