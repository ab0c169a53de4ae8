package views

import (
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/strata"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/snapshot"
)

// StepFields are the figures of a step that may be changed by hand, as they are.
type StepFields struct {
	Version   int         `json:"version"`
	Material  string      `json:"material,omitempty" doc:"of a coat: its product's id, or its family's"`
	Methods   []string    `json:"methods" doc:"how its material may be put on"`
	Ladder    []string    `json:"ladder" doc:"by key"`
	Minutes   int         `json:"minutes"`
	Film      string      `json:"film,omitempty" doc:"the milestone that films below must have reached; absent: what is usual before such work"`
	RestMin   int         `json:"restMin,omitempty"`
	PlaceID   *uuid.UUID  `json:"placeId,omitempty"`
	DivideMin int         `json:"divideMin,omitempty"`
	Least     int         `json:"least,omitempty" doc:"of rounds"`
	Most      int         `json:"most,omitempty"`
	Note      string      `json:"note,omitempty"`
	Regions   []uuid.UUID `json:"regions"`
	ByHand    bool        `json:"byHand" doc:"a hand has added it, and may remove it"`
	Handwork  bool        `json:"handwork" doc:"it has a ladder and may be spread"`
}

func fieldsOf(m *snapshot.Snapshot, at snapshot.Located) StepFields {
	s := at.Step()
	f := StepFields{Version: s.Version, Methods: []string{}, Ladder: append([]string{}, s.Ladder...), Minutes: int(s.HandsOnMin),
		Film:    string(s.Film),
		RestMin: int(s.RestMin), PlaceID: s.Place, Note: s.Note, Regions: at.Regions(), ByHand: recipe.ByHand(s.Slot),
		Handwork: s.Kind.Handwork()}
	if made := at.Planned().Material; made != nil {
		f.Material = s.MaterialKey()
		for _, by := range made.Family.Methods {
			f.Methods = append(f.Methods, string(by))
		}
	}
	if s.Divide != nil {
		f.DivideMin = int(s.Divide.LeastMin)
	}
	if s.Repeat != nil {
		f.Least, f.Most = s.Repeat.Least, s.Repeat.Most
	}
	return f
}

// Edited is an instrument as its schedule would be.
type Edited struct {
	InstrumentID uuid.UUID       `json:"instrumentId"`
	Outlook      Outlook         `json:"outlook"`
	Days         []DayMark       `json:"days" doc:"the days its threads run through"`
	Pieces       []PieceView     `json:"pieces"`
	Objections   []ObjectionView `json:"objections"`
	Strata       []StrataChange  `json:"strata" doc:"of regions on which something else would lie in the end"`
}

// StrataChange is what lies on regions in the end, today and with the changes.
type StrataChange struct {
	Piece   string    `json:"piece"`
	Regions []string  `json:"regions"`
	Now     []Stratum `json:"now" doc:"from the wood upwards"`
	Then    []Stratum `json:"then"`
}

// Stratum is coats of one material, or what the last abrasive left.
type Stratum struct {
	Name  string `json:"name"`
	Coats int    `json:"coats"`
}

// edited is the instrument whose schedule was changed last, as it would be; nil where none was.
func edited(b *changes.Set, after *snapshot.Snapshot) *Edited {
	for k := len(b.Changes) - 1; k >= 0; k-- {
		id := b.Changes[k].InstrumentID
		if !byHand(&b.Changes[k]) {
			continue
		}
		i := slices.IndexFunc(b.Workshop.Instruments, func(in recipe.Instrument) bool { return in.ID == id })
		view := instrument(after, i)
		return &Edited{id, view.Outlook, view.Days, view.Pieces, objections(after, i), strataChanges(b.Snapshot, after, i)}
	}
	return nil
}

// strataChanges are the regions on which something else would lie in the end; those that are alike together.
func strataChanges(before, after *snapshot.Snapshot, i int) []StrataChange {
	list := []StrataChange{}
	for _, p := range after.Workshop.Instruments[i].Pieces {
		for _, z := range p.Regions {
			now, then := lying(before, &before.Workshop.Instruments[i], z.ID), lying(after, &after.Workshop.Instruments[i], z.ID)
			if slices.Equal(now, then) {
				continue
			}
			alike := slices.IndexFunc(list, func(c StrataChange) bool {
				return c.Piece == string(p.Kind) && slices.Equal(c.Now, now) && slices.Equal(c.Then, then)
			})
			if alike < 0 {
				list = append(list, StrataChange{string(p.Kind), []string{z.Name}, now, then})
			} else {
				list[alike].Regions = append(list[alike].Regions, z.Name)
			}
		}
	}
	return list
}

// lying is what lies on a region once all is done, from the wood upwards.
func lying(m *snapshot.Snapshot, in *recipe.Instrument, region uuid.UUID) []Stratum {
	var lying strata.Stack[uuid.UUID]
	for p := range in.Pieces {
		for k := range in.Pieces[p].Steps {
			s := &in.Pieces[p].Steps[k]
			if s.Out == "" && !m.Facts[job.Event{Step: s.ID, Coat: 1}].Skipped && slices.Contains(in.Pieces[p].RegionsOf(s), region) {
				lying.Do(s, s.ID)
			}
		}
	}
	list := []Stratum{}
	for _, l := range lying {
		list = append(list, Stratum{stratumName(m, l.Product, l.Family), l.Coats})
	}
	return list
}

func stratumName(m *snapshot.Snapshot, product, family string) string {
	if made := m.Catalogue[product]; made != nil {
		return made.Name
	}
	return family
}
