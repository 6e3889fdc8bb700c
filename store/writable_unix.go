//go:build unix

package store

import "golang.org/x/sys/unix"

// writable reports whether files can be made in a folder.
func writable(folder string) bool { return unix.Access(folder, unix.W_OK) == nil }
