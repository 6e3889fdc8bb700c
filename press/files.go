package press

import (
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
)

// Put gives a file the name that it is wanted by, as a whole or not at all.
func Put(made, wanted string) error {
	if os.Rename(made, wanted) == nil {
		return nil
	}
	from, err := os.Open(made)
	if err != nil {
		return err
	}
	defer from.Close()
	return Whole(wanted, func(to io.Writer) error {
		_, err := io.Copy(to, from)
		return err
	})
}

// Whole writes a file beside where it is wanted, and gives it its name when all of it is there.
func Whole(wanted string, write func(io.Writer) error) (err error) {
	to, err := os.CreateTemp(filepath.Dir(wanted), ".export-*")
	if err != nil {
		return fmt.Errorf("%s can't be written: %w", wanted, err)
	}
	defer func() {
		if err != nil {
			to.Close()
			os.Remove(to.Name())
			err = fmt.Errorf("%s can't be written: %w", wanted, err)
		}
	}()
	if err := write(to); err != nil {
		return err
	}
	if err := errors.Join(to.Chmod(0o644), to.Close()); err != nil {
		return err
	}
	return os.Rename(to.Name(), wanted)
}

// Write writes what a file is to hold, as a whole or not at all.
func Write(data []byte, wanted string) error {
	return Whole(wanted, func(to io.Writer) error {
		_, err := to.Write(data)
		return err
	})
}
