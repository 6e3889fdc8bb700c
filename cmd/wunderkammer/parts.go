package main

import (
	"fmt"
	"io"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"wunderkammer/core/ask"
	"wunderkammer/core/change"
	"wunderkammer/core/engine"
	"wunderkammer/core/format/pack"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/handoffs"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
	"wunderkammer/press"
	"wunderkammer/store"
)

func importCommand() *cobra.Command {
	var data, name, as, into string
	cmd := &cobra.Command{
		Use:   "import FILE [--data DIR] [--into PROJECT]",
		Short: "Put a project file, or a part of one, into the database as a new project, or into one that is there; stop the server first",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			opened, err := openPackage(args[0])
			if err != nil {
				return err
			}
			if into != "" && as != "" {
				return fmt.Errorf("--as names a new project, and --into one that is there; give one of them")
			}
			file, err := databaseIn(data, name)
			if err != nil {
				return err
			}
			st, err := store.Open(file)
			if err != nil {
				return err
			}
			defer st.Close()
			if err := st.Keep(opened.Files...); err != nil {
				return err
			}
			if into != "" {
				err = bringInto(cmd.OutOrStdout(), st, opened, into)
			} else {
				err = createFrom(cmd.OutOrStdout(), st, opened, as)
			}
			if err != nil {
				return err
			}
			for _, note := range opened.Mended {
				fmt.Fprintf(cmd.OutOrStdout(), "\t%s\n", note)
			}
			for _, id := range opened.Missing {
				if _, err := st.Asset(id); err != nil {
					fmt.Fprintf(cmd.OutOrStdout(), "\tthe picture or sound %s… is missing\n", id[:12])
				}
			}
			return nil
		},
	}
	cmd.Flags().StringVar(&data, "data", "data", "the folder of the database")
	cmd.Flags().StringVar(&name, "name", "", "the name of the database, such as demo, where there are several")
	cmd.Flags().StringVar(&as, "as", "", "the name of the new project; by default the one in the file")
	cmd.Flags().StringVar(&into, "into", "", "the project, by its name or id, that the file is brought into")
	return cmd
}

// createFrom stores a package as a project of its own.
func createFrom(out io.Writer, st *store.Store, opened *pack.Opened, as string) error {
	p := opened.Project
	p.ID = store.NewID()
	if as != "" {
		p.Name = as
	}
	if err := p.Check(); err != nil {
		return err
	}
	if err := st.Create(p); err != nil {
		return err
	}
	fmt.Fprintf(out, "%s\t%s\n", p.ID, p.Name)
	return nil
}

// bringInto brings what is in a package into a project of the store.
func bringInto(out io.Writer, st *store.Store, opened *pack.Opened, name string) error {
	projects, err := st.List(false)
	if err != nil {
		return err
	}
	var ids []string
	for _, p := range projects {
		if p.ID == name || strings.EqualFold(p.Name, name) {
			ids = append(ids, p.ID)
		}
	}
	switch len(ids) {
	case 0:
		return fmt.Errorf("there is no project named %q", name)
	case 1:
	default:
		return fmt.Errorf("several projects are named %q; give the id: %s", name, strings.Join(ids, ", "))
	}
	loaded, err := st.Load(ids[0])
	if err != nil {
		return err
	}
	p := loaded.Project
	c := &gesture.Context{Project: p.ID, Composition: p.Compositions[0], NewID: store.NewID, Recipes: p.Recipes, Others: p.Compositions, Sets: p.Sets}
	r, err := (&handoffs.BringProject{Value: opened.Project, Part: opened.Part}).Do(c)
	if err != nil {
		return err
	}
	if len(r.Ops) > 0 {
		inverse, _, err := change.Apply(p, r.Ops)
		if err != nil {
			return err
		}
		made := session.Change{ID: string(store.NewID()), Base: loaded.Revision, Revision: loaded.Revision + 1, Ops: r.Ops}
		if err := st.Append(p, made, inverse); err != nil {
			return err
		}
	}
	fmt.Fprintf(out, "%s\t%s\t%s\n", p.ID, p.Name, r.Note)
	for _, detail := range r.Details {
		fmt.Fprintf(out, "\t%s\n", detail)
	}
	return nil
}

func handoffCommand() *cobra.Command {
	var h handoff
	cmd := &cobra.Command{
		Use:   "handoff FILE[#composition] [--reading NAME [--set 'Control=value' ...] [--write OUT]]",
		Short: "Print the controls that compositions hand off, with their ranges and defaults, and their readings; with --reading also what that one has; with --set, set them in it",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return h.run(cmd.OutOrStdout(), args[0])
		},
	}
	cmd.Flags().StringVar(&h.reading, "reading", "", "a reading; with --set it is made where it is not there")
	cmd.Flags().IntVar(&h.frame, "frame", 0, "the frame of what is printed, and of what is set where it is pinned")
	cmd.Flags().StringArrayVar(&h.sets, "set", nil, "a control and its value, such as 'Swing=30' or 'Cloth=#8a3d2a'; again for each")
	cmd.Flags().StringVar(&h.file, "write", "", "the project file to write, with the reading as it is now")
	return cmd
}

// handoff is the flags of a look at what is handed off.
type handoff struct {
	reading, file string
	frame         int
	sets          []string
}

func (h *handoff) run(out io.Writer, arg string) error {
	file, name, named := strings.Cut(arg, "#")
	opened, err := openPackage(file)
	if err != nil {
		return err
	}
	p, list := opened.Project, opened.Project.Compositions
	if named {
		c, err := ask.Composition(p, name)
		if err != nil {
			return err
		}
		list = []*scene.Composition{c}
	}
	list = slices.DeleteFunc(slices.Clone(list), func(c *scene.Composition) bool { return len(c.Handed()) == 0 })
	switch {
	case len(list) == 0:
		return fmt.Errorf("%s hands off no controls", arg)
	case (len(h.sets) > 0 || h.file != "") && h.reading == "":
		return fmt.Errorf("name the reading that is set or written with --reading")
	case h.reading != "" && len(list) > 1 && len(h.sets) > 0:
		return fmt.Errorf("several compositions are handed off; say which is read: %s#%s", file, list[0].Name)
	}
	found := false
	for _, c := range list {
		r, err := h.set(p, c)
		if err != nil {
			return err
		}
		found = found || r != nil
		if err := h.print(out, p, c, r); err != nil {
			return err
		}
	}
	if h.reading != "" && !found {
		return fmt.Errorf("there is no reading named %q", h.reading)
	}
	if h.file == "" {
		return nil
	}
	data, err := pack.WritePart(p, opened.Part, opened.Files)
	if err != nil {
		return err
	}
	return press.Write(data, h.file)
}

// set returns the reading of a composition that is asked for, with what is set in it; nil where there is none.
func (h *handoff) set(p *scene.Project, c *scene.Composition) (*scene.Composition, error) {
	if h.reading == "" {
		return nil, nil
	}
	readings := p.Readings(c.ID)
	at := slices.IndexFunc(readings, func(r *scene.Composition) bool {
		return strings.EqualFold(r.Name, h.reading) || string(r.ID) == h.reading
	})
	switch {
	case at < 0 && len(h.sets) == 0:
		return nil, nil
	case at < 0:
		made := &change.CompositionAdd{Value: c.NewReading(store.NewID(), store.NewID(), h.reading), At: -1}
		if _, _, err := change.Apply(p, change.Ops{made}); err != nil {
			return nil, err
		}
		readings = p.Readings(c.ID)
		at = len(readings) - 1
	}
	reading := readings[at]
	if len(h.sets) == 0 {
		return reading, nil
	}
	values := map[string]scene.Value{}
	for _, one := range h.sets {
		name, value, ok := strings.Cut(one, "=")
		if name = strings.TrimSpace(name); !ok || name == "" {
			return nil, fmt.Errorf("%q sets nothing; write it as 'Control=value'", one)
		}
		if _, twice := values[name]; twice {
			return nil, fmt.Errorf("%s is set twice", name)
		}
		values[name] = scene.Txt(value)
	}
	if err := ask.Within(reading, float64(h.frame)); err != nil {
		return nil, err
	}
	plan := engine.New(reading)
	plan.Evaluate(float64(h.frame))
	ops, err := ask.Set(&gesture.Context{Project: p.ID, Composition: reading, Planned: plan, Frame: h.frame, NewID: store.NewID, Others: p.Compositions}, values)
	if err == nil {
		_, _, err = change.Apply(p, ops)
	}
	return reading, err
}

// print prints what a composition hands off, a line for each control, and its readings.
func (h *handoff) print(out io.Writer, p *scene.Project, c, reading *scene.Composition) error {
	values := map[string]ask.ControlValue{}
	if reading != nil {
		if err := ask.Within(reading, float64(h.frame)); err != nil {
			return err
		}
		plan := engine.New(reading)
		plan.Evaluate(float64(h.frame))
		for _, one := range ask.Controls(plan) {
			values[one.Ref.Property] = one
		}
	}
	for _, handed := range c.Handed() {
		spec := handed.Spec()
		fmt.Fprintf(out, "%s\t%s\t%s\t%s\t%s\t%s", c.Name, spec.Name, spec.Type.Word(), spec.Unit, span(spec), ask.Printed(spec.Type, handed.Control.Default))
		if one, ok := values[spec.Key]; ok {
			fmt.Fprintf(out, "\t%s", ask.Printed(one.Type, one.Value))
			if one.Pinned {
				fmt.Fprint(out, "\tpinned")
			}
		}
		fmt.Fprintln(out)
	}
	if reading == nil {
		for _, r := range p.Readings(c.ID) {
			fmt.Fprintf(out, "%s\treading\t%s\n", c.Name, r.Name)
		}
	}
	return nil
}

// span writes what values a property can have: its options, or its limits.
func span(spec *scene.Spec) string {
	if len(spec.Options) > 0 {
		return strings.Join(spec.Options, " | ")
	}
	low, high := ask.Limits(spec)
	if low == nil && high == nil || spec.Type == scene.Colour || spec.Type == scene.Switch {
		return "any"
	}
	text := func(x *float64) string {
		if x == nil {
			return ""
		}
		return scene.Exact(*x)
	}
	return text(low) + " … " + text(high)
}
