package shop

import "context"

// KeepBackupsIn says where the daily backups go, and Daily makes the one that is due.
func (s *Service) KeepBackupsIn(folder string)     { s.backups.folder = folder }
func (s *Service) Daily(ctx context.Context) error { return s.daily(ctx) }
