// Package gesture turns what a user does with a hand (add, wire, attach, drag a fader, pin a
// drawer, remove) into operations of package change. It works out what the hand leaves open:
// a free name, the gain that mends two units, the values that keep an attached item in its place.
package gesture

import (
	"fmt"
	"iter"
	"maps"
	"slices"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/engine"
	"wunderkammer/core/scene"
)

// Context is what a gesture is made in.
type Context struct {
	Project     scene.ID // that the composition is of; empty where it is not known
	Composition *scene.Composition
	Plan        *engine.Plan // evaluated at Frame
	Frame       int
	NewID       func() scene.ID
	AutoPin     bool                 // whatever is set is pinned at Frame
	Recipes     []*scene.SavedRecipe // of the project
}

// Result is what a gesture comes to.
type Result struct {
	Ops  change.Ops
	Made []scene.ID // ids of items or controls that the gesture adds
	Note string     // something the user should know, in a sentence
	// Poses are driven properties that are shown at another value for the time being, and those that
	// no longer are (with an absent value).
	Poses []Pose
	// Details lists what the note is about, one thing each.
	Details []string
}

// Pose is a value that a driven property is shown at for the time being, in place of what drives it.
type Pose struct {
	Ref   scene.Ref   `json:"ref"`
	Value scene.Value `json:"value"`
}

// Gesture is one act of a user.
type Gesture interface {
	Do(c *Context) (Result, error)
}

// names is the table of all gestures.
var names = map[string]func() Gesture{
	"add":             func() Gesture { return &Add{} },
	"add control":     func() Gesture { return &AddControl{} },
	"set":             func() Gesture { return &Set{} },
	"pin":             func() Gesture { return &Pin{} },
	"move pins":       func() Gesture { return &MovePins{} },
	"ease pins":       func() Gesture { return &EasePins{} },
	"drop pins":       func() Gesture { return &DropPins{} },
	"link":            func() Gesture { return &Link{} },
	"mark":            func() Gesture { return &Mark{} },
	"use pose":        func() Gesture { return &UsePose{} },
	"gather":          func() Gesture { return &Gather{} },
	"formula":         func() Gesture { return &Formula{} },
	"bake":            func() Gesture { return &Bake{} },
	"give poses":      func() Gesture { return &GivePoses{} },
	"add stop":        func() Gesture { return &AddStop{} },
	"set stop":        func() Gesture { return &SetStop{} },
	"remove stop":     func() Gesture { return &RemoveStop{} },
	"hold at stop":    func() Gesture { return &HoldAt{} },
	"turn poses":      func() Gesture { return &TurnPoses{} },
	"set options":     func() Gesture { return &SetOptions{} },
	"cut frames":      func() Gesture { return &CutFrames{} },
	"pose stop":       func() Gesture { return &PoseStop{} },
	"bring recipe":    func() Gesture { return &BringRecipe{} },
	"save recipe":     func() Gesture { return &SaveRecipe{} },
	"recipe":          func() Gesture { return &MakeRecipe{} },
	"undo bake":       func() Gesture { return &UndoBake{} },
	"spread":          func() Gesture { return &Spread{} },
	"find members":    func() Gesture { return &FindMembers{} },
	"spread formula":  func() Gesture { return &RosterFormula{} },
	"copy control":    func() Gesture { return &CopyControl{} },
	"turn round":      func() Gesture { return &TurnRound{} },
	"paste link":      func() Gesture { return &PasteLink{} },
	"to map":          func() Gesture { return &ToMap{} },
	"fit ranges":      func() Gesture { return &FitRanges{} },
	"attach":          func() Gesture { return &Attach{} },
	"inherit":         func() Gesture { return &Inherit{} },
	"break up":        func() Gesture { return &BreakUp{} },
	"group":           func() Gesture { return &Group{} },
	"letters":         func() Gesture { return &Letters{} },
	"more":            func() Gesture { return &More{} },
	"duplicate":       func() Gesture { return &Duplicate{} },
	"paste":           func() Gesture { return &Paste{} },
	"move":            func() Gesture { return &Move{} },
	"turn":            func() Gesture { return &Turn{} },
	"grow":            func() Gesture { return &Grow{} },
	"pivot":           func() Gesture { return &Pivot{} },
	"move vertex":     func() Gesture { return &MoveVertex{} },
	"reshape":         func() Gesture { return &Reshape{} },
	"order":           func() Gesture { return &Order{} },
	"bring svg":       func() Gesture { return &BringSVG{} },
	"remove":          func() Gesture { return &Remove{} },
	"move control":    func() Gesture { return &MoveControl{} },
	"set depth":       func() Gesture { return &SetDepth{} },
	"remove controls": func() Gesture { return &RemoveControls{} },
	"new graph":       func() Gesture { return &NewGraph{} },
	"open as graph":   func() Gesture { return &OpenAsGraph{} },
	"as formula":      func() Gesture { return &WriteAsFormula{} },
	"put slips":       func() Gesture { return &PutSlips{} },
	"take slips":      func() Gesture { return &TakeSlips{} },
	"drive":           func() Gesture { return &Drive{} },
	"pull slips":      func() Gesture { return &PullSlips{} },
	"arrange slips":   func() Gesture { return &ArrangeSlips{} },
	"align slips":     func() Gesture { return &AlignSlips{} },
	"fold slips":      func() Gesture { return &FoldSlips{} },
	"unfold":          func() Gesture { return &Unfold{} },
	"mark slip":       func() Gesture { return &MarkSlip{} },
	"mend wire":       func() Gesture { return &MendWire{} },
	"value control":   func() Gesture { return &ValueControl{} },
	"remove graph":    func() Gesture { return &RemoveGraph{} },
	"operations":      func() Gesture { return &Operations{} },
}

// All gives an empty gesture of every name, in the order of the names.
func All() iter.Seq2[string, Gesture] {
	return func(yield func(string, Gesture) bool) {
		for _, name := range slices.Sorted(maps.Keys(names)) {
			if !yield(name, names[name]()) {
				return
			}
		}
	}
}

// Decode reads the gesture of the given name.
func Decode(name string, data []byte) (Gesture, error) {
	make, ok := names[name]
	if !ok {
		return nil, fmt.Errorf("there is no gesture named %q", name)
	}
	g := make()
	if err := scene.ReadExactly(data, g); err != nil {
		return nil, fmt.Errorf("%s: %w", name, err)
	}
	return g, nil
}

// Operations makes operations as they are given.
type Operations struct {
	Ops change.Ops `json:"ops"`
}

// UnmarshalJSON reads operations of which every field is known.
func (g *Operations) UnmarshalJSON(data []byte) error {
	var exact struct {
		Ops change.Exact `json:"ops"`
	}
	err := scene.ReadExactly(data, &exact)
	g.Ops = change.Ops(exact.Ops)
	return err
}

// Do returns the operations.
func (g *Operations) Do(*Context) (Result, error) { return Result{Ops: g.Ops}, nil }

func (c *Context) in() change.In { return change.In{Composition: c.Composition.ID} }

func (c *Context) on(id scene.ID) change.On { return change.On{In: c.in(), Item: id} }

func (c *Context) of(id scene.ID, key string) change.Of {
	return change.Of{On: c.on(id), Property: key}
}

// item returns an item of the composition or an error in plain words.
func (c *Context) item(id scene.ID) (*scene.Item, error) {
	if item := c.Composition.Item(id); item != nil {
		return item, nil
	}
	return nil, fmt.Errorf("the item is no longer there; it may have been removed in another window")
}

func (c *Context) property(ref scene.Ref) (*scene.Item, *scene.Spec, error) {
	item, err := c.item(ref.Item)
	if err != nil {
		return nil, nil, err
	}
	spec := item.Spec(ref.Property)
	if spec == nil {
		return nil, nil, fmt.Errorf("%s no longer has that property; its control may have been removed", item.Name)
	}
	return item, spec, nil
}

// itemNames returns the names of all items, which are taken.
func (c *Context) itemNames() map[string]bool {
	taken := map[string]bool{}
	for _, item := range c.Composition.Items {
		taken[item.Name] = true
	}
	return taken
}

// controlNames returns the names of all controls of an item.
func controlNames(item *scene.Item) map[string]bool {
	taken := map[string]bool{}
	for _, control := range item.Controls {
		taken[control.Name] = true
	}
	return taken
}

// plural writes how many there are of something.
func plural(n int, word string) string {
	if n == 1 {
		return "1 " + word
	}
	return fmt.Sprintf("%d %ss", n, word)
}

// leftOut says how many links were.
func leftOut(n int) string {
	if n == 1 {
		return "1 link was left out"
	}
	return plural(n, "link") + " were left out"
}

// AddControl puts a new control at the end of an item's drawer. What is left open of the control
// is filled in from its kind, or from the first property that it is to drive.
type AddControl struct {
	Item    scene.ID      `json:"item"`            // empty: a new null
	Owner   string        `json:"owner,omitempty"` // how that is called; empty: Panel
	Control scene.Control `json:"control" ts:"part"`
	Drives  []scene.Ref   `json:"drives,omitempty"` // the properties that it drives at once
}

// starts says how a control of each kind begins.
var starts = map[scene.Widget]scene.Control{
	scene.Fader:        {Name: "Fader", SoftMax: 100, Default: scene.Num(0)},
	scene.DialWidget:   {Name: "Dial", SoftMin: -180, SoftMax: 180, Default: scene.Num(0)},
	scene.ColourWidget: {Name: "Colour", Default: scene.RGBA(0.85, 0.64, 0.3, 1)},
	scene.PointWidget:  {Name: "Point", SoftMin: -500, SoftMax: 500, Default: scene.Pt(0, 0)},
	scene.ChoiceWidget: {Name: "Choice", Options: []string{"Option 1", "Option 2"}, Default: scene.Num(0)},
	scene.TextWidget:   {Name: "Text", Default: scene.Txt("Text")},
	scene.SwitchWidget: {Name: "Switch", Default: scene.On(true)},
}

// Do returns the operation that adds the control.
func (g *AddControl) Do(c *Context) (Result, error) {
	r := newRig(c)
	var item *scene.Item
	if g.Item == "" {
		name := g.Owner
		if strings.TrimSpace(name) == "" {
			name = "Panel"
		}
		item = r.null(name, [3]float64{})
		r.Made = nil
	} else {
		on, err := c.drawer(g.Item)
		if err != nil {
			return Result{}, err
		}
		item = on
	}
	start, ok := starts[g.Control.Kind]
	if !ok {
		return Result{}, fmt.Errorf("choose what kind of control it is")
	}
	control := *g.Control.Clone()
	control.ID = c.NewID()
	for k := range control.Poses {
		control.Poses[k].ID = c.NewID()
		if control.Poses[k].Easing == "" {
			control.Poses[k].Easing = curve.Smooth
		}
	}
	if control.Name == "" {
		control.Name = freeName(start.Name, controlNames(item))
	}
	if control.SoftMin == 0 && control.SoftMax == 0 {
		control.SoftMin, control.SoftMax = start.SoftMin, start.SoftMax
	}
	if len(control.Options) == 0 {
		control.Options = start.Options
	}
	if control.Default.Absent() {
		control.Default = start.Default
		if control.Kind == scene.PointWidget && control.Depth {
			control.Default = scene.Pt(0, 0, 0)
		}
	}
	if len(control.Poses) > 0 {
		if control.Kind == scene.Fader {
			for k := range control.Poses { // evenly over its range
				control.Poses[k].At = control.SoftMin + float64((control.SoftMax-control.SoftMin)*float64(k))/float64(max(1, len(control.Poses)-1))
			}
		}
		control.SetPoses(control.Poses)
	}
	add := &change.ControlAdd{On: c.on(item.ID), Value: &control, At: -1}
	r.Ops = append(r.Ops, add)
	r.Made = append(r.Made, control.ID)
	if len(g.Drives) == 0 {
		return r.Result, nil
	}
	return r.Result, r.drive(item, &control, g.Drives)
}

// drive has a control that is being made drive properties, which stay as they are: it begins with the value of the first one,
// and has a range that holds it.
func (r *rig) drive(item *scene.Item, control *scene.Control, targets []scene.Ref) error {
	c := r.Context
	if len(control.Poses) > 0 { // its links hold what there is, at all stops
		for _, ref := range targets {
			on, target, err := c.property(ref)
			if err != nil {
				return err
			}
			l := &scene.Link{ID: c.NewID(), Kind: scene.Posed, Source: scene.Ref{Item: item.ID, Property: string(control.ID)}, Component: ref.Component, Gain: 1}
			for _, s := range control.Poses {
				l.Hold(s.ID, c.Plan.Value(ref))
			}
			if target.ReadOnly {
				return fmt.Errorf("%s: %s is read-only", on.Name, target.Name)
			}
			r.Ops = append(r.Ops, &change.LinkAdd{Of: c.of(ref.Item, ref.Property), At: -1, Link: l})
		}
		return nil
	}
	ops, note, err := c.linksOfNew(&Link{Source: scene.Ref{Item: item.ID, Property: string(control.ID)}, Targets: targets}, control)
	if err != nil {
		return err
	}
	r.Ops, r.Note = append(r.Ops, ops...), note
	return nil
}

// ControlFor returns a control that suits a property: of its kind, unit and range, at the value that it has.
func (c *Context) ControlFor(ref scene.Ref) (*scene.Control, error) {
	item, spec, err := c.property(scene.Ref{Item: ref.Item, Property: ref.Property})
	if err != nil {
		return nil, err
	}
	kind, ok := widgets[spec.Type]
	if !ok {
		return nil, fmt.Errorf("%s: no control suits %s", item.Name, spec.Name)
	}
	value := c.Plan.Value(ref)
	if ref.Component != "" {
		part := *spec
		part.Type, part.Options = scene.Number, nil
		spec, kind = &part, scene.Fader
	}
	out := controlFor(spec, kind, value)
	if value.Len() == 1 || spec.Type == scene.Point2 || spec.Type == scene.Point3 {
		if wide := reaching(out, value, spec); wide != nil {
			out = wide
		}
	}
	return out, nil
}
