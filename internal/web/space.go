package web

import (
	"golang.org/x/sys/unix"
)

// Folder is where a server keeps something.
type Folder struct {
	What string // data or backups
	Path string
}

// Space is how much room is left where a server keeps something.
type Space struct {
	What string `json:"what" enum:"data,backups"`
	Free int64  `json:"freeBytes"`
	Low  bool   `json:"low" doc:"it will not last: less than 1 GB"`
}

// lowSpace is less than what a shop should have left, in bytes.
const lowSpace = 1 << 30

// spaces are how much is left in each folder; one that cannot be asked is left out.
func spaces(folders []Folder) []Space {
	list := []Space{}
	for _, f := range folders {
		var disk unix.Statfs_t
		if unix.Statfs(f.Path, &disk) == nil {
			free := int64(disk.Bavail) * disk.Bsize
			list = append(list, Space{f.What, free, free < lowSpace})
		}
	}
	return list
}
