package scene

import (
	"cmp"
	"fmt"
	"strings"
	"unicode/utf8"

	"wunderkammer/core/num"
)

// Bounds of what a document may hold; each is told in the sentence of its refusal.
const (
	MaxName    = 200   // characters
	MaxNote    = 2000  // characters
	MaxSide    = 16384 // pixels of a composition
	MaxFrames  = 1000000
	MaxRate    = 240
	MaxItems   = 100000 // of a composition
	MaxMarkers = 1000   // of a composition
	MaxPins    = 100000 // of a property
	// MaxOptions bounds the entries of a menu.
	MaxOptions  = 100
	MaxControls = 2000 // of an item
	MaxLinks    = 1000 // of a property
	// MaxCompositions bounds the compositions of a project.
	MaxCompositions = 1000
)

// CheckName refuses a name nobody could read.
func CheckName(name string) error {
	switch {
	case strings.TrimSpace(name) == "":
		return fmt.Errorf("enter a name")
	case !utf8.ValidString(name):
		return fmt.Errorf("the name is not valid text")
	case utf8.RuneCountInString(name) > MaxName:
		return fmt.Errorf("the name has %d characters; the limit is %d", utf8.RuneCountInString(name), MaxName)
	}
	return nil
}

// CheckID refuses what cannot be an id: 1 to 24 small letters and digits.
func CheckID(id ID) error {
	if len(id) == 0 || len(id) > 24 {
		return fmt.Errorf("%q is not an id; an id has 1 to 24 letters and digits", Clip(string(id)))
	}
	for _, r := range id {
		if (r < 'a' || r > 'z') && (r < '0' || r > '9') {
			return fmt.Errorf("%q is not an id; an id is made of small letters and digits", Clip(string(id)))
		}
	}
	return nil
}

// Clip shortens what came from outside so that it can stand in a sentence.
func Clip(s string) string {
	if len(s) > 40 {
		return s[:40] + "…"
	}
	return s
}

// Check refuses a composition whose frame cannot be drawn. Its items are not looked at.
func (c *Composition) Check() error {
	if c == nil {
		return fmt.Errorf("a composition is empty")
	}
	if err := CheckID(c.ID); err != nil {
		return err
	}
	if err := CheckName(c.Name); err != nil {
		return err
	}
	for _, b := range []struct {
		what       string
		value, max int
	}{{"width", c.Width, MaxSide}, {"height", c.Height, MaxSide}, {"frame rate", c.Rate, MaxRate}, {"length in frames", c.Frames, MaxFrames}} {
		if b.value < 1 || b.value > b.max {
			return fmt.Errorf("the %s of a composition must be from 1 to %d, not %d", b.what, b.max, b.value)
		}
	}
	if err := c.Background.Fits(Colour); err != nil {
		return fmt.Errorf("background: %w", err)
	}
	if len(c.Drawers) > MaxItems {
		return fmt.Errorf("the Desk of %s arranges %d drawers; at most %d are kept", c.Name, len(c.Drawers), MaxItems)
	}
	if err := c.HandOff.Check(); err != nil {
		return fmt.Errorf("%s: %w", c.Name, err)
	}
	if err := c.checkLooks(); err != nil {
		return err
	}
	if len(c.Markers) > MaxMarkers {
		return fmt.Errorf("%s has %d markers; at most %d are kept", c.Name, len(c.Markers), MaxMarkers)
	}
	for k := range c.Markers {
		if err := c.Markers[k].Check(); err != nil {
			return err
		}
		if k > 0 && c.Markers[k].Frame <= c.Markers[k-1].Frame {
			return fmt.Errorf("the markers of %s are not in the order of their frames", c.Name)
		}
	}
	return nil
}

// reserved holds the keys of the catalogue.
var reserved = func() map[string]bool {
	keys := map[string]bool{}
	for _, list := range [][]*Spec{Properties, Readable} {
		for _, s := range list {
			keys[s.Key] = true
		}
	}
	return keys
}()

// Check refuses a control that could not be shown or could not hold a value.
func (c *Control) Check() error {
	if c == nil {
		return fmt.Errorf("a control is empty")
	}
	if err := CheckID(c.ID); err != nil {
		return err
	}
	if err := CheckName(c.Name); err != nil {
		return err
	}
	if _, _, vertex := VertexOf(string(c.ID)); vertex || reserved[string(c.ID)] {
		return fmt.Errorf("%q is the name of a property and can't be the id of a control", c.ID)
	}
	if c.Kind.Info() == nil {
		return fmt.Errorf("%q is not a kind of control; use fader, dial, colour, point, switch, choice or text", Clip(string(c.Kind)))
	}
	if utf8.RuneCountInString(c.Note) > MaxNote {
		return fmt.Errorf("the note of %s is longer than %d characters", c.Name, MaxNote)
	}
	if utf8.RuneCountInString(c.Heading) > MaxName {
		return fmt.Errorf("the heading above %s is longer than %d characters", c.Name, MaxName)
	}
	if utf8.RuneCountInString(string(c.Unit)) > 12 {
		return fmt.Errorf("the unit of %s is longer than 12 characters", c.Name)
	}
	for _, x := range []*float64{&c.SoftMin, &c.SoftMax, c.Min, c.Max} {
		if x != nil {
			if err := Num(*x).Fits(Number); err != nil {
				return fmt.Errorf("range of %s: %w", c.Name, err)
			}
		}
	}
	if (c.Kind == ChoiceWidget) != (len(c.Options) > 0) || len(c.Options) > MaxOptions {
		return fmt.Errorf("a choice has 1 to %d options, and nothing else has any", MaxOptions)
	}
	for _, o := range c.Options {
		if err := CheckName(o); err != nil {
			return fmt.Errorf("an option of %s: %w", c.Name, err)
		}
	}
	if !num.Finite(c.Step) || c.Step < 0 || c.Accent < 0 || c.Accent > Labels {
		return fmt.Errorf("invalid step or accent for %s", c.Name)
	}
	if c.Laid != nil {
		if err := Pt(c.Laid.At[:]...).Fits(Point2); err != nil {
			return fmt.Errorf("the place of %s on the viewport: %w", c.Name, err)
		}
	}
	if c.SoftMin > c.SoftMax {
		return fmt.Errorf("the range of %s ends at %g, below its start %g", c.Name, c.SoftMax, c.SoftMin)
	}
	if c.Min != nil && c.Max != nil && *c.Min > *c.Max {
		return fmt.Errorf("the limits of %s cross: %g is above %g", c.Name, *c.Min, *c.Max)
	}
	if err := c.Default.Fits(c.Spec().Type); err != nil {
		return fmt.Errorf("default of %s: %w", c.Name, err)
	}
	return c.checkPoses()
}

func (b *Baked) check(spec *Spec) error {
	if b == nil {
		return nil
	}
	if len(b.Links) > MaxLinks || len(b.Rows) > MaxRosterLinks {
		return fmt.Errorf("the bake of %s put away more links than a property can have", spec.Name)
	}
	return CheckPins(spec, b.Pins)
}

// Check refuses an item that is broken in itself. Its parent is not looked at, and neither is whether its
// ids are its own.
func (i *Item) Check() error {
	if i == nil {
		return fmt.Errorf("an item is empty")
	}
	if err := CheckID(i.ID); err != nil {
		return err
	}
	if err := i.CheckLooks(); err != nil {
		return err
	}
	if Of(i.Kind) == nil || i.Kind == Copy {
		return fmt.Errorf("%q is not a kind of item", Clip(string(i.Kind)))
	}
	if err := i.checkParts(); err != nil {
		return fmt.Errorf("%s: %w", i.Name, err)
	}
	if len(i.Controls) > MaxControls {
		return fmt.Errorf("%s would have %d controls; at most %d are kept on one item", i.Name, len(i.Controls), MaxControls)
	}
	for _, c := range i.Controls {
		if err := c.Check(); err != nil {
			return fmt.Errorf("%s: %w", i.Name, err)
		}
	}
	return i.checkStates()
}

func (i *Item) checkStates() error {
	for key, s := range i.States {
		if s == nil {
			return fmt.Errorf("what was set of %q of %s is empty", Clip(key), i.Name)
		}
		for _, l := range s.Links {
			if l == nil {
				return fmt.Errorf("a link of %s is empty", i.Name)
			}
		}
	}
	for _, key := range i.leftWeights() {
		return fmt.Errorf("%s: %w", i.Name, noLink(key))
	}
	for key, s := range i.States {
		spec := weightNamed(key, "the weight of a link")
		if _, weight := WeightOf(key); !weight {
			spec = i.Spec(key)
		}
		if i.Piece != nil && byKey[i.Kind][key] == nil && (spec == nil || !s.fits(spec)) {
			spec = s.loose(key)
		}
		if spec == nil {
			return fmt.Errorf("%s has no property %q", i.Name, Clip(key))
		}
		if spec.ReadOnly {
			return fmt.Errorf("%s: %s is read-only", i.Name, spec.Name)
		}
		if err := CheckState(spec, s); err != nil {
			return fmt.Errorf("%s: %w", i.Name, err)
		}
	}
	return nil
}

// CheckLooks refuses a name, note or label that cannot be.
func (i *Item) CheckLooks() error {
	if err := CheckName(i.Name); err != nil {
		return err
	}
	if utf8.RuneCountInString(i.Note) > MaxNote {
		return fmt.Errorf("the note is longer than %d characters", MaxNote)
	}
	if i.Label < 0 || i.Label > Labels {
		return fmt.Errorf("there are %d colours to label with, not %d", Labels, i.Label)
	}
	return nil
}

// checkParts refuses what an item of the kind cannot have: a path, pictures, stops, an attachment.
func (i *Item) checkParts() error {
	if (i.Path != nil) != (i.Kind == PathItem) {
		return fmt.Errorf("only a path has vertices, and every path does")
	}
	if i.Path != nil {
		if err := i.Path.Check(); err != nil {
			return err
		}
	}
	if err := CheckFrames(i.Kind, i.Frames); err != nil {
		return err
	}
	if err := CheckStops(i.Kind, i.Stops); err != nil {
		return err
	}
	if i.Copies != nil && i.Kind != CopiesItem {
		return fmt.Errorf("only copies have a limit and a path to stand along")
	}
	if err := i.Copies.Check(); err != nil {
		return err
	}
	if i.Sound != nil && i.Kind != SoundItem {
		return fmt.Errorf("only a sound can be heard")
	}
	if err := i.Sound.Check(); err != nil {
		return err
	}
	if i.Table != nil && i.Kind != TableItem {
		return fmt.Errorf("only a table has columns")
	}
	if err := i.Table.Check(); err != nil {
		return err
	}
	if (i.Mesh != nil) != (i.Kind == MeshItem) {
		return fmt.Errorf("only a mesh has a surface of its own, and every mesh does")
	}
	if err := i.Mesh.Check(); err != nil {
		return err
	}
	if err := i.checkPiece(); err != nil {
		return err
	}
	return i.Attachment.Check()
}

// MaxFramesOfBook bounds how many frames one flipbook has.
const MaxFramesOfBook = 10000

// CheckFrames refuses pictures where a kind has none, and ids and parts that cannot be.
func CheckFrames(kind Kind, frames []Frame) error {
	class := kind.Class()
	if len(frames) > 0 && class != Pictured && class != Solid {
		return fmt.Errorf("a %s has no picture", kind.Info().Name)
	}
	if len(frames) > MaxFramesOfBook || (kind == Picture && len(frames) > 1) {
		return fmt.Errorf("a %s can't have %d frames", kind.Info().Name, len(frames))
	}
	for _, f := range frames {
		if !f.Asset.Valid() {
			return fmt.Errorf("%q does not name a picture", Clip(string(f.Asset)))
		}
		for _, x := range f.Part {
			if x < 0 || x > MaxSide {
				return fmt.Errorf("a part of a picture lies outside of any picture")
			}
		}
	}
	return nil
}

// Valid reports whether the id could be one: 64 hexadecimal digits.
func (a AssetID) Valid() bool {
	if len(a) != 64 {
		return false
	}
	for _, r := range a {
		if (r < 'a' || r > 'f') && (r < '0' || r > '9') {
			return false
		}
	}
	return true
}

// CheckStops refuses stops that are out of order or not colours.
func CheckStops(kind Kind, stops []Stop) error {
	if len(stops) > 0 && kind.Class() != Outlined {
		return fmt.Errorf("a %s has no gradient", kind.Info().Name)
	}
	if len(stops) > 100 {
		return fmt.Errorf("a gradient has at most 100 stops, not %d", len(stops))
	}
	last := 0.0
	for _, s := range stops {
		if !num.Finite(s.At) || s.At < last || s.At > 1 {
			return fmt.Errorf("the stops of the gradient are not in order")
		}
		last = s.At
		if err := s.Colour.Fits(Colour); err != nil {
			return fmt.Errorf("a stop of the gradient: %w", err)
		}
	}
	return nil
}

// Check refuses numbers that no place can have.
func (a *Attachment) Check() error {
	xs := []float64{a.Turns}
	if a.Stayed != nil {
		xs = append(xs, a.Stayed[:]...)
	}
	for _, x := range xs {
		if err := Num(x).Fits(Number); err != nil {
			return fmt.Errorf("attachment: %w", err)
		}
	}
	return nil
}

// Check refuses a project that is broken anywhere: bad values, ids that occur twice, an item
// attached to itself through others.
func (p *Project) Check() error {
	if err := CheckName(p.Name); err != nil {
		return err
	}
	if len(p.Compositions) == 0 {
		return fmt.Errorf("a project has at least one composition")
	}
	if len(p.Compositions) > MaxCompositions {
		return fmt.Errorf("the project would have %d compositions; at most %d are kept", len(p.Compositions), MaxCompositions)
	}
	p.Join()
	claimed := ids{}
	for _, c := range p.Compositions {
		if err := c.checkWhole(claimed); err != nil {
			return err
		}
	}
	return cmp.Or(p.CheckPieces(), p.checkRecipes(), p.checkBefores(), p.checkSets())
}

// claim takes all ids of a composition, which have to be its own.
func (t ids) claim(c *Composition) error {
	for _, id := range c.IDs() {
		if t[id] {
			return fmt.Errorf("the id %s occurs twice", id)
		}
		t[id] = true
	}
	return nil
}

// CheckWhole is Check for a composition with all that is in it.
func (c *Composition) CheckWhole() error { return c.checkWhole(ids{}) }

// checkWhole is CheckWhole where some ids are claimed already.
func (c *Composition) checkWhole(claimed ids) error {
	if err := c.Check(); err != nil {
		return err
	}
	if len(c.Items) > MaxItems {
		return fmt.Errorf("%s holds %d items; at most %d are kept", c.Name, len(c.Items), MaxItems)
	}
	for _, item := range c.Items {
		if err := item.Check(); err != nil {
			return fmt.Errorf("%s: %w", c.Name, err)
		}
	}
	if err := c.CheckReading(); err != nil {
		return err
	}
	if err := c.checkRosterLinks(); err != nil {
		return err
	}
	if err := c.checkGraphs(); err != nil {
		return err
	}
	if err := claimed.claim(c); err != nil {
		return err
	}
	for _, item := range c.Items {
		if item.Parent != "" && c.Item(item.Parent) == nil {
			return fmt.Errorf("%s: %s is attached to an item that does not exist", c.Name, item.Name)
		}
	}
	if err := c.CheckLanes(); err != nil {
		return err
	}
	return c.CheckTree()
}

// CheckTree refuses items that are attached to each other in a cycle, and copies that are nested too deep.
func (c *Composition) CheckTree() error {
	if item := c.cycleOf(); item != nil {
		return fmt.Errorf("%s can't be attached to %s: that would create a loop", item.Name, c.Item(item.Parent).Name)
	}
	if item := c.nested(); item != nil {
		return fmt.Errorf("%s can't show copies of copies of copies: they can only be nested %d deep", item.Name, MaxCopiesNested)
	}
	return nil
}

// cycleOf returns an item that is attached to itself by way of others, or nil.
func (c *Composition) cycleOf() *Item {
	tree, _ := c.Tree()
	if len(tree) == len(c.Items) {
		return nil
	}
	inTree := make(map[ID]bool, len(tree))
	for _, item := range tree {
		inTree[item.ID] = true
	}
	for _, item := range c.Items {
		if inTree[item.ID] {
			continue
		}
		for range c.Items { // up, until it is in the cycle itself
			item = c.Item(item.Parent)
		}
		return item
	}
	return nil
}
