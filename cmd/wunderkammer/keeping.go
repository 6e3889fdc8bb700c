package main

import (
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"wunderkammer/core/format/pack"
	"wunderkammer/core/format/picture"
	"wunderkammer/store"
)

// databaseName is the file of the database in the folder of the data.
const databaseName = "wunderkammer.db"

func backupCommand() *cobra.Command {
	var data string
	cmd := &cobra.Command{
		Use:   "backup FILE [--data DIR]",
		Short: "Write all projects, as they are now, to a file; the server can keep running",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			st, err := store.OpenToRead(filepath.Join(data, databaseName))
			if err != nil {
				return err
			}
			defer st.Close()
			if err := st.Backup(args[0]); err != nil {
				return err
			}
			fmt.Fprintf(cmd.OutOrStdout(), "%s holds all projects\n", args[0])
			return nil
		},
	}
	cmd.Flags().StringVar(&data, "data", "data", "the folder of the database")
	return cmd
}

func restoreCommand() *cobra.Command {
	var data string
	cmd := &cobra.Command{
		Use:   "restore FILE [--data DIR]",
		Short: "Replace the database with a backup, keeping the old one beside it; stop the server first",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			kept, err := store.Restore(args[0], filepath.Join(data, databaseName))
			if err != nil {
				return err
			}
			fmt.Fprintf(cmd.OutOrStdout(), "%s was restored\n", args[0])
			if kept != "" {
				fmt.Fprintf(cmd.OutOrStdout(), "the old database is kept in %s\n", kept)
			}
			return nil
		},
	}
	cmd.Flags().StringVar(&data, "data", "data", "the folder of the database")
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
		whole = whole && h.Whole
		if to != "" && h.Project != nil {
			if err := export(st, &h, filepath.Join(to, strings.TrimSuffix(filepath.Base(file), ".db")+"-"+h.ID+pack.Extension)); err != nil {
				return false, err
			}
		}
	}
	return whole, nil
}

// export writes a project as a package, with the pictures that can be read.
func export(st *store.Store, h *store.Health, file string) error {
	var pictures []picture.Picture
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
