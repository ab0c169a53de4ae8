package snapshot

import "github.com/google/uuid"

func (m *Snapshot) InstrumentName(id uuid.UUID) string {
	for i := range m.Workshop.Instruments {
		if m.Workshop.Instruments[i].ID == id {
			return m.Workshop.Instruments[i].Name
		}
	}
	if in := m.FindArchived(id); in != nil {
		return in.Name
	}
	return ""
}
