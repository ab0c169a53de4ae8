package changes

import "umberfrost/internal/shop/access"

// CheckMoves refuses changes that need another role than a device has that may log and move.
func CheckMoves(c access.Caller, in Changes) error {
	for i := range in.Changes {
		need := access.RoleShop
		if kind := in.Changes[i].read(); kind != nil {
			need = kind.role()
		}
		if !c.Role.May(need) {
			return &access.Forbidden{Need: need, Role: c.Role}
		}
	}
	return nil
}
