package main

import (
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"wunderkammer/core/format/media"
	"wunderkammer/core/format/pack"
	"wunderkammer/core/scene"
	"wunderkammer/store"
)

// databaseName is the file of the database in the folder of the data.
const databaseName = "wunderkammer.db"

// databaseIn returns the database in the folder of the data: the one with a name; where none is given, the usual one, or else
// the only one there is.
func databaseIn(folder, name string) (string, error) {
	if name != "" {
		return filepath.Join(folder, strings.TrimSuffix(name, ".db")+".db"), nil
	}
	usual := filepath.Join(folder, databaseName)
	if _, err := os.Stat(usual); err == nil {
		return usual, nil
	}
	all, err := filepath.Glob(filepath.Join(escaped(folder), "*.db"))
	if err != nil {
		return "", err
	}
	all = slices.DeleteFunc(all, func(file string) bool { return strings.Contains(filepath.Base(file), "-before-") })
	switch len(all) {
	case 0:
		return usual, nil
	case 1:
		return all[0], nil
	}
	for k, file := range all {
		all[k] = strings.TrimSuffix(filepath.Base(file), ".db")
	}
	return "", fmt.Errorf("there are several databases in %s; say which with --name: %s", folder, strings.Join(all, ", "))
}

func backupCommand() *cobra.Command {
	var data, name string
	cmd := &cobra.Command{
		Use:   "backup FILE [--data DIR]",
		Short: "Write all projects, as they are now, to a file; the server can keep running",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			file, err := databaseIn(data, name)
			if err != nil {
				return err
			}
			st, err := store.OpenToRead(file)
			if err != nil {
				return err
			}
			defer st.Close()
			if err := st.Backup(args[0]); err != nil {
				return err
			}
			fmt.Fprintf(cmd.OutOrStdout(), "%s holds all projects of %s\n", args[0], file)
			return nil
		},
	}
	cmd.Flags().StringVar(&data, "data", "data", "the folder of the database")
	cmd.Flags().StringVar(&name, "name", "", "the name of the database, such as demo, where there are several")
	return cmd
}

func restoreCommand() *cobra.Command {
	var data, name string
	cmd := &cobra.Command{
		Use:   "restore FILE [--data DIR]",
		Short: "Replace the database with a backup, keeping the old one beside it; stop the server first",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			file, err := databaseIn(data, name)
			if err != nil {
				return err
			}
			kept, err := store.Restore(args[0], file)
			if err != nil {
				return err
			}
			fmt.Fprintf(cmd.OutOrStdout(), "%s was restored to %s\n", args[0], file)
			if kept != "" {
				fmt.Fprintf(cmd.OutOrStdout(), "the old database is kept in %s\n", kept)
			}
			return nil
		},
	}
	cmd.Flags().StringVar(&data, "data", "data", "the folder of the database")
	cmd.Flags().StringVar(&name, "name", "", "the name of the database, such as demo, where there are several")
	return cmd
}

func doctorCommand() *cobra.Command {
	var to string
	cmd := &cobra.Command{
		Use:   "doctor DIR [--to FOLDER]",
		Short: "Check all databases in a folder; with --to, write every project as far as it can be read; exits with 1 if something is damaged",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			files, err := filepath.Glob(filepath.Join(escaped(args[0]), "*.db"))
			if err != nil || len(files) == 0 {
				return fmt.Errorf("there is no database in %s", args[0])
			}
			if to != "" {
				if err := os.MkdirAll(to, 0o700); err != nil {
					return err
				}
			}
			wrong := false
			for _, file := range files {
				whole, err := examine(cmd.OutOrStdout(), file, to)
				if err != nil {
					fmt.Fprintf(cmd.OutOrStdout(), "%s\t%v\n", filepath.Base(file), err)
				}
				wrong = wrong || !whole || err != nil
			}
			if wrong {
				return failed{1, errors.New("")}
			}
			return nil
		},
	}
	cmd.Flags().StringVar(&to, "to", "", "the folder to write packages to")
	return cmd
}

// escaped writes a path so that a pattern takes it as it is.
func escaped(path string) string {
	return strings.NewReplacer(`\`, `\\`, "[", `\[`, "*", `\*`, "?", `\?`).Replace(path)
}

// examine says of a database file and of each of its projects what is wrong, and writes those that can be read.
func examine(out io.Writer, file, to string) (whole bool, err error) {
	st, err := store.OpenToRead(file)
	if err != nil {
		return false, err
	}
	defer st.Close()
	damage := st.Damage()
	for _, what := range damage {
		fmt.Fprintf(out, "%s\tdamaged: %s\n", filepath.Base(file), strings.ReplaceAll(what, "\n", "; "))
	}
	whole = len(damage) == 0
	projects, err := st.Examine()
	if err != nil {
		return false, err
	}
	for _, h := range projects {
		state := "whole"
		switch {
		case h.Project == nil:
			state = "lost"
		case !h.Whole:
			state = fmt.Sprintf("readable up to change %d of %d", h.Reached, h.Want)
		}
		if h.Deleted {
			state += ", in the bin"
		}
		fmt.Fprintf(out, "%s\t%s\t%s\t%s\n", filepath.Base(file), h.ID, h.Name, state)
		for _, note := range h.Notes {
			fmt.Fprintf(out, "\t%s\n", note)
		}
		for _, id := range lacking(st, &h) {
			fmt.Fprintf(out, "\tthe picture %s… is missing\n", id[:12])
			whole = false
		}
		whole = whole && h.Whole
		if to != "" && h.Project != nil {
			if err := export(st, &h, filepath.Join(to, strings.TrimSuffix(filepath.Base(file), ".db")+"-"+h.ID+pack.Extension)); err != nil {
				return false, err
			}
		}
	}
	return whole, nil
}

// lacking lists the pictures that a project shows and that are not there.
func lacking(st *store.Store, h *store.Health) (ids []scene.AssetID) {
	if h.Project == nil {
		return nil
	}
	for _, id := range h.Project.Assets() {
		if _, err := st.Asset(id); err != nil {
			ids = append(ids, id)
		}
	}
	return ids
}

// export writes a project as a package, with the pictures that can be read.
func export(st *store.Store, h *store.Health, file string) error {
	var pictures []media.File
	for _, id := range h.Project.Assets() {
		if one, err := st.Asset(id); err == nil {
			pictures = append(pictures, one)
		}
	}
	data, err := pack.Write(h.Project, pictures)
	if err != nil {
		return err
	}
	return os.WriteFile(file, data, 0o600)
}
