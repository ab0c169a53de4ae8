package changes

import "umberfrost/internal/shop/access"

// CheckMoves refuses changes that need another role than a device has that may log and move.
func CheckMoves(c access.Caller, in Changes) error {
	if c.Role.May(access.RoleShop) {
		return nil
	}
	for _, change := range in.Changes {
		if change.Kind != "pin" && change.Kind != "unpin" {
			return &access.Forbidden{Need: access.RoleShop, Role: c.Role}
		}
	}
	return nil
}
