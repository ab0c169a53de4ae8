package changes

import (
	"github.com/google/uuid"

	"umberfrost/internal/craft/edit"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/repair"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
)

// Repair puts the steps of a way into a schedule. What the tests of an old film have told composes its piece again.
type Repair struct {
	InstrumentID uuid.UUID
	Repair       *repair.Asked
}

func (c *Repair) role() access.Role { return access.RoleShop }

func (c *Repair) apply(b *Set, _ int) error {
	in, err := b.instrumentOf(c.InstrumentID)
	switch {
	case err != nil:
		return err
	case c.Repair == nil:
		return refuse.Field("repair", "say what has happened", nil)
	}
	next, way, err := repair.Apply(*in, *c.Repair, b.LoggedOf(in))
	if err != nil {
		return refuse.FaultAt("repair", err)
	}
	if way.Found != "" {
		return b.told(in, c.Repair.Piece, way)
	}
	where := phrase.List(snapshot.RegionNames(in, c.Repair.Regions))
	if where == "" {
		where = "the whole piece"
	}
	b.become(in, next)
	return b.Say(false, "%s: %s on %s: %s", in.Name, damageWords[c.Repair.Damage], where, phrase.Lower(way.Title))
}

var damageWords = map[repair.Damage]string{repair.Again: "done again", repair.Chip: "a chip", repair.Run: "a run",
	repair.Burn: "a burn-through",
	repair.Dent: "a dent", repair.Scratch: "a scratch", repair.Panel: "a panel coated again"}

// told composes a piece again, by what the tests of its old film have told.
func (b *Set) told(in *recipe.Instrument, piece uuid.UUID, way repair.Way) error {
	wish := snapshot.WishOf(in).Stacked()
	for _, p := range in.Pieces {
		for i := range wish.Pieces {
			if p.ID == piece && wish.Pieces[i].Kind == p.Kind {
				wish.Pieces[i].Found = way.Found
				return (&Wish{InstrumentID: in.ID, Wish: &wish}).apply(b, 0)
			}
		}
	}
	return refuse.Field("repair.pieceId", "must be a body or a neck whose wish is known", piece)
}

// askAgain puts what a check that was not passed asks for into the schedule before it; it answers what comes.
func (w *Unit) askAgain(e job.Entry) ([]string, error) {
	b, err := NewSet(w.Before, nil, e.Person)
	if err != nil {
		return nil, err
	}
	in, err := b.instrumentOf(e.Instrument)
	if err != nil {
		return nil, err
	}
	next, again, asked := repair.Failed(*in, *e.Step, e.ID, b.LoggedOf(in))
	if !asked {
		return nil, nil
	}
	var titles []string
	for _, s := range again {
		titles = append(titles, s.Title)
	}
	b.become(in, next)
	w.Changes = b
	return titles, b.Say(false, "%s: once more %s, as the check asks", in.Name, phrase.List(titles))
}

// forgetAsked takes what a check had asked for away again, as far as nothing of it is logged: its entry was struck.
func (w *Unit) forgetAsked(struck job.Entry) error {
	b, err := NewSet(w.Before, nil, struck.Person)
	if err != nil {
		return err
	}
	in, err := b.instrumentOf(struck.Instrument)
	if err != nil {
		return err
	}
	next, gone := *in, false
	for _, id := range repair.AskedBy(struck.ID) {
		if after, err := edit.Apply(next, edit.Edit{Op: edit.Remove, Step: id}, b.LoggedOf(in), nil); err == nil {
			next, gone = after, true
		}
	}
	if !gone {
		return nil
	}
	b.become(in, next)
	w.Changes = b
	return b.Say(false, "%s: what a check had asked for is taken away again", in.Name)
}
