// Package scene is the model: a project of compositions, their items, and the catalogue of the
// properties that items have. It holds no rule of evaluation and changes nothing by itself;
// package change edits it and package engine evaluates it.
//
// Space: the origin is the middle of the composition, x points right, y up, z toward the viewer,
// in pixels. Rotation is in degrees, counter-clockwise positive. Scale and opacity are in percent.
// Colours are sRGB with alpha, 0 to 1.
package scene

import (
	"fmt"
	"math"

	"wunderkammer/core/curve"
)

// ID names a project, composition, item, control or link for as long as it lives.
// Names are free and may repeat; ids never do within a project.
type ID string

// Project is a document: everything that is saved and changed together.
type Project struct {
	ID           ID             `json:"id"`
	Name         string         `json:"name"`
	Compositions []*Composition `json:"compositions"`
	Recipes      []*SavedRecipe `json:"recipes,omitempty"` // rigs of the designer's own, to be made again
	Befores      []*Before      `json:"befores,omitempty"` // states of compositions that are kept to compare with
	Sets         []*ControlSet  `json:"sets,omitempty"`    // controls that are kept to be put onto items

	ids ids // see Claim
}

// Composition is a stage of a fixed size over a fixed number of frames.
type Composition struct {
	ID         ID     `json:"id"`
	Name       string `json:"name"`
	Width      int    `json:"width"`                  // pixels
	Height     int    `json:"height"`                 // pixels
	Rate       int    `json:"rate"`                   // frames a second
	Frames     int    `json:"frames"`                 // length
	Background Value  `json:"background" ts:"colour"` // a colour
	// Items in the order of the tree: of two items with the same parent, the earlier stands
	// above in the tree and in front in the picture.
	Items []*Item `json:"items"`
	// RosterLinks are the links on rosters, the lowest first; in a stack they stand below the links of
	// the property itself.
	RosterLinks []*RosterLink `json:"spreads,omitempty"`
	Graphs      []*Graph      `json:"graphs,omitempty"`
	// Drawers is how the drawers of the Desk are arranged; those that it does not name follow in the order of the tree.
	Drawers []Drawer `json:"drawers,omitempty"`
	// Markers are named places in time, in the order of their frames.
	Markers []Marker `json:"markers,omitempty"`
	HandOff *HandOff `json:"handOff,omitempty"`
	// Looks are what its controls stood at, kept by names.
	Looks []*Look `json:"looks,omitempty"`
	// Reading is the composition that this is a reading of; see IsReading.
	Reading ID `json:"reading,omitempty"`

	index  *index   // see Item
	home   *Project // see Join
	handed []Handed // see Handed; nil: not made yet
}

// Marker is a named place in time.
type Marker struct {
	ID    ID     `json:"id"`
	Name  string `json:"name"`
	Frame int    `json:"frame"`
}

// Marker returns a marker, and where it stands among the others; -1 where there is none of that id.
func (c *Composition) Marker(id ID) (Marker, int) {
	for k, m := range c.Markers {
		if m.ID == id {
			return m, k
		}
	}
	return Marker{}, -1
}

// Check refuses a marker that could not be shown.
func (m *Marker) Check() error {
	if err := CheckID(m.ID); err != nil {
		return err
	}
	if m.Frame < 0 || m.Frame >= MaxFrames {
		return fmt.Errorf("the marker %s is at frame %d; frames are from 0 to %d", Clip(m.Name), m.Frame, MaxFrames-1)
	}
	return CheckName(m.Name)
}

// Drawer is where the controls of an item stand on the Desk.
type Drawer struct {
	Item ID   `json:"item"`
	Top  bool `json:"top,omitempty"` // it is kept above the others
}

// Item is anything in a composition: what is drawn, what lights it or looks at it, and what only carries others or their controls.
type Item struct {
	ID          ID           `json:"id"`
	Name        string       `json:"name"`
	Kind        Kind         `json:"kind"`
	Parent      ID           `json:"parent,omitempty"` // what the item is attached to
	Hidden      bool         `json:"hidden,omitempty"`
	Locked      bool         `json:"locked,omitempty"`
	NotInOutput bool         `json:"notInOutput,omitempty"`
	Label       int          `json:"label,omitempty"` // a colour in the tree, 0 for none
	Note        string       `json:"note,omitempty"`
	Controls    []*Control   `json:"controls,omitempty"`
	Path        *PathShape   `json:"path,omitempty"`   // of a path
	Frames      []Frame      `json:"frames,omitempty"` // of a picture or flipbook, or the surface of an object
	Stops       []Stop       `json:"stops,omitempty"`  // of a gradient, between its first and its last colour
	Attachment  Attachment   `json:"attachment,omitzero"`
	Copies      *CopiesShape `json:"copies,omitempty"` // of copies
	Sound       *Sound       `json:"sound,omitempty"`  // of a sound; absent: it has none yet, and is silent
	Table       *Table       `json:"table,omitempty"`  // of a table; absent: it has none yet
	Mesh        *MeshShape   `json:"mesh,omitempty"`   // of a mesh
	Piece       *Shown       `json:"piece,omitempty"`  // of a piece
	// States holds what was set of each property, by the key of the catalogue or the id of the
	// control. A property that was never touched is absent and has its default.
	States map[string]*State `json:"states,omitempty"`
}

// Labels is how many colours there are to label items with.
const Labels = 6

// Attachment is how an item hangs on its parent.
type Attachment struct {
	// Stayed is where the parent stood, in the composition, when the item was attached: the rows of
	// num.Affine. At a weight of 0 the item stays behind with it.
	Stayed *[12]float64 `json:"stayed,omitempty"`
	// Turns is the parent's rotation then, in degrees, with whole turns counted.
	Turns float64 `json:"turns,omitempty"`
	// What is not taken over from the parent.
	NoPosition bool `json:"noPosition,omitempty"`
	NoRotation bool `json:"noRotation,omitempty"`
	NoScale    bool `json:"noScale,omitempty"`
}

// Frame is one picture of an item that shows pictures: a whole file, or a rectangle of it.
type Frame struct {
	Asset AssetID `json:"asset"`
	// Part of the picture in its pixels: left, top, width, height. All zero for the whole of it.
	Part [4]int `json:"part,omitzero"`
}

// AssetID names a picture or a sound by its content: the SHA-256 of its bytes in 64 hexadecimal digits.
type AssetID string

// Stop is a colour of a gradient and where it is met; between two stops colours are mixed.
type Stop struct {
	At     float64 `json:"at"` // share of the way, 0 to 1
	Colour Value   `json:"colour" ts:"colour"`
}

// Ramp returns the colours of a gradient from its first to its last, in order.
func (i *Item) Ramp(first, last Value) []Stop {
	ramp := append([]Stop{{0, first}}, i.Stops...)
	return append(ramp, Stop{1, last})
}

// State is what a designer set of one property of one item.
type State struct {
	Own  Value `json:"own"` // absent: the default
	Pins []Pin `json:"pins,omitempty"`
	// Beyond is how it goes on behind its last pin.
	Beyond curve.Tail `json:"beyond,omitempty"`
	Links  []*Link    `json:"links,omitempty"` // lowest first; the last has the last word
	// Limits of the designer's own, of every component, within those of the property. Both alike
	// lock it.
	Min *float64 `json:"min,omitempty"`
	Max *float64 `json:"max,omitempty"`
	// Limits are those of single components, by their names, within those of all of them.
	Limits map[string]Limits `json:"limits,omitempty"`
	// Baked is there while pins stand for the links: what undoing the bake brings back.
	Baked *Baked `json:"baked,omitempty"`
}

// Limits hold a component of a property; absent ones do not. Both alike lock it.
type Limits struct {
	Min *float64 `json:"min,omitempty"`
	Max *float64 `json:"max,omitempty"`
}

// Limited reports whether the designer set limits of his own on the property, or on a component of it.
func (s *State) Limited() bool { return s.Min != nil || s.Max != nil || len(s.Limits) > 0 }

// Baked is what a bake put away.
type Baked struct {
	Links []ID  `json:"links,omitempty"` // switched off
	Rows  []ID  `json:"rows,omitempty"`  // links on rows that the item opted out of
	Pins  []Pin `json:"pins,omitempty"`  // that stood there before
}

// Pin is a value at a frame, and the way from it to the next pin.
type Pin struct {
	Frame  int          `json:"frame"`
	Value  Value        `json:"value"`
	Easing curve.Easing `json:"easing" ts:"text"`
	// Of a point: where its path leaves the pin to, and arrives at it from, as vectors from the value. Where a property has a pin with
	// one of them, it moves along a path, and easings say how far along each span. Absent ones go straight.
	Lead   Value `json:"lead,omitzero"`
	Arrive Value `json:"arrive,omitzero"`
}

// Track returns how a component of a property moves through pins by itself, which are in the order of their frames. A value counts as
// the number that is given for it; nil: as its component.
func (s *Spec) Track(pins []Pin, part int, number func(Value) float64) curve.Track {
	frames, values, easings := make([]float64, len(pins)), make([]float64, len(pins)), make([]curve.Easing, len(pins))
	for i, pin := range pins {
		frames[i], easings[i] = float64(pin.Frame), pin.Easing
		if s.Jumps() {
			easings[i] = curve.Hold
		}
		if number != nil {
			values[i] = number(pin.Value)
		} else {
			values[i] = pin.Value.At(part)
		}
	}
	return curve.New(frames, values, easings)
}

// Ref points at a property of an item, or at one component of it.
type Ref struct {
	Item      ID     `json:"item"`
	Property  string `json:"property"`
	Component string `json:"component,omitempty"`
}

// Control is a property that a designer added to an item in order to drive others.
type Control struct {
	ID      ID       `json:"id"`
	Name    string   `json:"name"`
	Kind    Widget   `json:"kind"`
	Note    string   `json:"note,omitempty"`
	Unit    Unit     `json:"unit,omitempty"`    // faders
	Whole   bool     `json:"whole,omitempty"`   // faders: whole numbers only
	Depth   bool     `json:"depth,omitempty"`   // points: three components instead of two
	SoftMin float64  `json:"softMin,omitempty"` // range of the widget
	SoftMax float64  `json:"softMax,omitempty"`
	Min     *float64 `json:"min,omitempty"` // hard limits
	Max     *float64 `json:"max,omitempty"`
	Options []string `json:"options,omitempty"` // choices: the names of their options
	Step    float64  `json:"step,omitempty"`    // of the widget; 0 for one made from the range
	Heading string   `json:"heading,omitempty"` // of the controls from this one on, in its drawer
	Accent  int      `json:"accent,omitempty"`  // a colour in its drawer, 0 for none
	Default Value    `json:"default"`
	Laid    *Laid    `json:"laid,omitempty"` // shown on the viewport, too
	// Poses are the stops of a control of poses: places on a fader, the options of a choice, off and on of a switch.
	Poses []PoseStop `json:"poses,omitempty"`
}

// PoseStop is a stop of a control of poses, at which it shows a whole state of what it moves.
type PoseStop struct {
	ID     ID           `json:"id"` // within its control
	Name   string       `json:"name"`
	At     float64      `json:"at,omitempty"` // on a fader; a choice or a switch has its stops at 0, 1, 2 …
	Easing curve.Easing `json:"easing"`       // of the way to the next stop, on a fader
}

// Laid is where a control stands on the viewport.
type Laid struct {
	At [2]float64 `json:"at"` // in the composition, or from the place of the item it travels with; pixels
	// With is the item that it travels with; empty: it stays where it is.
	With ID `json:"with,omitempty"`
}

// Widget is the widget of a control and so the type of its value.
type Widget string

// The kinds of controls.
const (
	Fader        Widget = "fader"
	DialWidget   Widget = "dial"
	ColourWidget Widget = "colour"
	PointWidget  Widget = "point"
	SwitchWidget Widget = "switch"
	ChoiceWidget Widget = "choice"
	TextWidget   Widget = "text"
)

// earlier are names that kinds of controls had in files of earlier versions.
var earlier = map[Widget]Widget{"slider": Fader, "angle": DialWidget, "menu": ChoiceWidget}

// UnmarshalText reads the name of a kind, that of an earlier version among them.
func (w *Widget) UnmarshalText(text []byte) error {
	*w = Widget(text)
	if now, ok := earlier[*w]; ok {
		*w = now
	}
	return nil
}

// Margin is how many frames before the first and behind the last of a composition can be looked at from outside.
const Margin = 10000

// Reaches reports whether a frame can be looked at from outside: it lies within the composition or Margin around it.
func (c *Composition) Reaches(frame float64) bool {
	return frame >= -Margin && frame < float64(c.Frames+Margin)
}

// Held returns the nearest frame that can be looked at from outside, which may lie between whole ones; 0 for what is no number.
func (c *Composition) Held(frame float64) float64 {
	if frame != frame {
		return 0
	}
	return math.Max(-Margin, math.Min(frame, float64(c.Frames+Margin-1)))
}

// Composition returns the composition with the id, or nil.
func (p *Project) Composition(id ID) *Composition {
	for _, c := range p.Compositions {
		if c.ID == id {
			if c.home != p {
				p.Join()
			}
			return c
		}
	}
	return nil
}

// Attached returns the items whose parent is id, in order.
func (c *Composition) Attached(id ID) []*Item {
	var out []*Item
	for _, item := range c.Items {
		if item.Parent == id {
			out = append(out, item)
		}
	}
	return out
}

// Tree returns the items with parents before what is attached to them, in the order of the tree,
// and the depth of each, 0 at the root. An item whose parent is missing stands at the root.
func (c *Composition) Tree() (items []*Item, depths []int) {
	hanging := map[ID][]*Item{}
	for _, item := range c.Items {
		if item.Parent != "" {
			hanging[item.Parent] = append(hanging[item.Parent], item)
		}
	}
	known := map[ID]bool{} // of what something hangs on
	for _, item := range c.Items {
		if hanging[item.ID] != nil {
			known[item.ID] = true
		}
	}
	roots := make([]*Item, 0, len(c.Items))
	for _, item := range c.Items {
		if !known[item.Parent] {
			roots = append(roots, item)
		}
	}
	items = make([]*Item, 0, len(c.Items))
	depths = make([]int, 0, len(c.Items))
	type entry struct {
		item  *Item
		depth int
	}
	var stack []entry
	push := func(list []*Item, depth int) {
		for i := len(list) - 1; i >= 0; i-- {
			stack = append(stack, entry{list[i], depth})
		}
	}
	push(roots, 0)
	for len(stack) > 0 {
		e := stack[len(stack)-1]
		stack = stack[:len(stack)-1]
		items, depths = append(items, e.item), append(depths, e.depth)
		push(hanging[e.item.ID], e.depth+1)
	}
	return items, depths
}

// Control returns the control with the id, or nil.
func (i *Item) Control(id ID) *Control {
	for _, c := range i.Controls {
		if c.ID == id {
			return c
		}
	}
	return nil
}

// State returns what was set of a property; a property never touched gives an empty state.
func (i *Item) State(key string) *State {
	if s := i.States[key]; s != nil {
		return s
	}
	return &State{}
}

// Link returns the link with the id and its place in the stack, or nil.
func (s *State) Link(id ID) (*Link, int) {
	for i, l := range s.Links {
		if l.ID == id {
			return l, i
		}
	}
	return nil, -1
}

// PinAt returns the place of the pin at the frame, or where one would go and false.
func (s *State) PinAt(frame int) (int, bool) {
	for i, p := range s.Pins {
		if p.Frame >= frame {
			return i, p.Frame == frame
		}
	}
	return len(s.Pins), false
}

// OwnOr returns the own value of a property, or the default that its specification gives.
func (s *State) OwnOr(spec *Spec) Value {
	if s.Own.Absent() {
		return spec.Default
	}
	return s.Own
}
