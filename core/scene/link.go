package scene

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"wunderkammer/core/curve"
	"wunderkammer/core/num"
)

// Link makes a property, or one component of it, depend on another.
type Link struct {
	ID        ID          `json:"id"`
	Kind      LinkKind    `json:"kind"`
	Source    Ref         `json:"source"`
	Component string      `json:"component,omitempty"` // of the target; empty for the whole property
	Operation Operation   `json:"operation,omitempty"` // what it does to what is below it; empty: replace
	Gain      float64     `json:"gain"`
	Offset    float64     `json:"offset"`
	Offsets   ByComponent `json:"offsets,omitempty"` // besides, by component of the target
	Stops     []MapStop   `json:"stops,omitempty"`   // of a map, by rising input
	Beyond    Beyond      `json:"beyond,omitempty"`  // of a map; empty: hold
	Delay     float64     `json:"delay,omitempty"`   // in frames; the source is looked at so long ago
	Seconds   bool        `json:"seconds,omitempty"` // the delay is shown in seconds
	Off       bool        `json:"off,omitempty"`
	// Formula of a formula link, with its references bound to ids: the last version that could be
	// worked out. Draft is what was typed since then and cannot be, kept as typed.
	Formula string `json:"formula,omitempty"`
	Draft   string `json:"draft,omitempty"`
	// FirstUnit is of a formula that was written before format 3 and multiplies: its result has the unit of the first of the values
	// that it chooses from, or that bound it, as it had then. A formula that is written anew does not have it.
	FirstUnit bool `json:"firstUnit,omitempty"`
	// Graph and Slip are of a graph link: the drive slip that gives its value, whose formula stands in Formula.
	Graph ID `json:"graph,omitempty"`
	Slip  ID `json:"slip,omitempty"`
	// Held is what a link of poses gives at the stops of its control.
	Held []Held `json:"held,omitempty"`
	// World gives a place or a rotation in the composition, or one component of a place; it goes through the target's parents,
	// and, of a vertex, through the item that has it.
	World bool `json:"world,omitempty"`
	// Stagger of a link on a roster: what is added for each member in turn.
	Stagger *Stagger `json:"stagger,omitempty"`
}

// Stagger adds something for each member of a roster in turn, times how far along it the member is.
type Stagger struct {
	By     Counting `json:"by,omitempty"` // empty: from 0
	Offset float64  `json:"offset,omitempty"`
	// Offsets is added besides, by component of the target.
	Offsets ByComponent `json:"offsets,omitempty"`
	Gain    float64     `json:"gain,omitempty"`
	Delay   float64     `json:"delay,omitempty"` // frames
	// Seed shuffles the order in which members are counted; 0 leaves it as it is.
	Seed int `json:"seed,omitempty"`
	// Curve says by what it is multiplied along the roster, by share from 0 to 1, where members are counted along a curve.
	Curve []MapStop `json:"curve,omitempty"`
}

// ByComponent is a number for each component of a value, in order; what stands behind its end is 0.
type ByComponent []float64

// At returns the number of a component, by its place; 0 for one that is not there.
func (a ByComponent) At(component int) float64 {
	if component < 0 || component >= len(a) {
		return 0
	}
	return a[component]
}

// Shift adds to the offset of one component of a property that the link drives.
func (l *Link) Shift(target *Spec, component int, by float64) {
	if target.Type.Size() == 1 || l.Component != "" {
		l.Offset += by
		return
	}
	for len(l.Offsets) <= component {
		l.Offsets = append(l.Offsets, 0)
	}
	l.Offsets[component] += by
}

// Onto lays the link onto a component of a property, or all of it, with what there is for its offsets.
func (l *Link) Onto(target *Spec, component string) {
	size := target.Type.Size()
	if l.Component = component; component != "" {
		k, _ := target.Type.Component(component)
		l.Offset += l.Offsets.At(k)
		if l.Stagger != nil {
			l.Stagger.Offset += l.Stagger.Offsets.At(k)
		}
		size = 0
	}
	l.Offsets = l.Offsets[:min(size, len(l.Offsets))]
	if s := l.Stagger; s != nil {
		s.Offsets = s.Offsets[:min(size, len(s.Offsets))]
	}
}

// check refuses numbers that no link to one component, or to all of a type, could add.
func (a ByComponent) check(target *Spec, component string) error {
	switch {
	case len(a) == 0:
		return nil
	case component != "":
		return fmt.Errorf("a link to %s of %s has one offset, not several", component, target.Name)
	case len(a) > target.Type.Size():
		return fmt.Errorf("%s has %d components, not %d", target.Name, target.Type.Size(), len(a))
	case !finite(a...):
		return fmt.Errorf("offsets must be finite numbers")
	}
	return nil
}

// Counting says how the members of a roster are counted.
type Counting string

// The ways of counting.
const (
	FromZero Counting = ""       // 0, 1, 2 …
	FromOne  Counting = "number" // 1, 2, 3 …
	AsShare  Counting = "share"  // 0 to 1 across the roster
	ByCurve  Counting = "curve"  // as the curve of the stagger says, by share
)

// LinkKind is how a link turns its source into a value.
type LinkKind string

// The kinds of links.
const (
	Follow  LinkKind = "follow"  // source × gain + offset
	Map     LinkKind = "map"     // what stands at the source between stops
	Formula LinkKind = "formula" // what a formula gives
	Graphed LinkKind = "graph"   // what a drive slip of a graph is given
	Posed   LinkKind = "pose"    // what it holds at the stops of a control of poses, and what lies between
)

// linkKinds holds the check of each kind of link that was registered.
var linkKinds = map[LinkKind]func(l *Link, target *Spec) error{}

// RegisterLink makes a kind of link known, with what refuses links of it that could not be evaluated on a
// property. Package link registers all kinds; twice the same one is a mistake of the program.
func RegisterLink(kind LinkKind, check func(l *Link, target *Spec) error) {
	if linkKinds[kind] != nil {
		panic("the kind of link " + string(kind) + " is registered twice")
	}
	linkKinds[kind] = check
}

// kindsOfLinks lists the kinds in a sentence.
func kindsOfLinks() string {
	var names []string
	for kind := range linkKinds {
		names = append(names, string(kind))
	}
	slices.Sort(names)
	return strings.Join(names, ", ")
}

// Operation is what a link does to the value below it in the stack.
type Operation string

// The operations.
const (
	Replace  Operation = ""
	Plus     Operation = "add"
	Multiply Operation = "multiply" // a source in percent multiplies as its hundredth
)

// MapStop is what a map gives at an input, and the way from there to the next stop.
type MapStop struct {
	In     float64      `json:"in"`
	Out    Value        `json:"out"`
	Easing curve.Easing `json:"easing"`
}

// Beyond is what a map does before its first stop and behind its last.
type Beyond string

// What there is beyond.
const (
	HoldEnds Beyond = ""       // the outermost stop goes on
	GoOn     Beyond = "go on"  // straight ahead, as the outermost span ends
	Repeat   Beyond = "repeat" // from the first stop again
	Mirror   Beyond = "mirror" // back, and forth again
)

// finite reports whether all numbers are.
func finite(numbers ...float64) bool {
	return !slices.ContainsFunc(numbers, func(x float64) bool { return !num.Finite(x) })
}

// CheckMapStops refuses stops that no map to a type can have: there are two at least, by rising input.
func CheckMapStops(stops []MapStop, beyond Beyond, out Type) error {
	if !slices.Contains([]Beyond{HoldEnds, GoOn, Repeat, Mirror}, beyond) {
		return fmt.Errorf("%q is not a way to go on outside the range; use hold, go on, repeat or mirror", Clip(string(beyond)))
	}
	if len(stops) < 2 {
		return fmt.Errorf("a map needs at least two stops; set another one at another value of its source")
	}
	if len(stops) > MaxStops {
		return fmt.Errorf("a map has at most %d stops, not %d", MaxStops, len(stops))
	}
	for i, s := range stops {
		if err := Num(s.In).Fits(Number); err != nil {
			return fmt.Errorf("input of a stop: %w", err)
		}
		if i > 0 && s.In <= stops[i-1].In {
			return fmt.Errorf("two stops of the map are at %s; move one of them, or set the stop at another value of the source", Exact(s.In))
		}
		if !s.Easing.Plain() {
			return fmt.Errorf("%q is not an easing; use hold, linear or smooth", Clip(string(s.Easing)))
		}
		if err := s.Out.Fits(out); err != nil {
			return fmt.Errorf("output at %s: %w", Exact(s.In), err)
		}
	}
	return nil
}

// Bounds on links.
const (
	MaxStops = 1000
	MaxDelay = 1000000 // frames
	// MaxFormula bounds the bytes of a formula: 20,000 characters of up to four bytes.
	MaxFormula = 80000
)

// Check refuses a link that could not be evaluated on a property. Whether its source exists and
// fits is the matter of package link.
func (l *Link) Check(target *Spec) error {
	if l == nil {
		return fmt.Errorf("a link on %s is empty", target.Name)
	}
	if err := CheckID(l.ID); err != nil {
		return err
	}
	if _, ok := target.Type.Component(l.Component); !ok && !target.Type.Worked(l.Component) {
		return fmt.Errorf("%s has no component named %q", target.Name, Clip(l.Component))
	}
	if !slices.Contains([]Operation{Replace, Plus, Multiply}, l.Operation) {
		return fmt.Errorf("%q is not a mode; use replace, add or multiply", Clip(string(l.Operation)))
	}
	if target.Type.Jumps() && l.Operation != Replace {
		return fmt.Errorf("%s can only be replaced: nothing can be added to a %s", target.Name, target.Type.Word())
	}
	if !finite(l.Gain, l.Offset) {
		return fmt.Errorf("gain and offset must be finite numbers")
	}
	if err := l.Offsets.check(target, l.Component); err != nil {
		return err
	}
	if !num.Finite(l.Delay) || l.Delay < 0 || l.Delay > MaxDelay {
		return fmt.Errorf("a delay must be from 0 to %d frames, not %v", MaxDelay, l.Delay)
	}
	if s := l.Stagger; s != nil {
		if !slices.Contains([]Counting{FromZero, FromOne, AsShare, ByCurve}, s.By) || !finite(s.Offset, s.Gain, s.Delay) || math.Abs(s.Delay) > MaxDelay {
			return fmt.Errorf("the stagger must be finite numbers")
		}
		if s.By == ByCurve || len(s.Curve) > 0 {
			if err := CheckMapStops(s.Curve, HoldEnds, Number); err != nil {
				return fmt.Errorf("the curve of the stagger: %w", err)
			}
		}
		if err := s.Offsets.check(target, l.Component); err != nil {
			return err
		}
	}
	if l.World && !target.Spaced() {
		return fmt.Errorf("only position, rotation and vertices can use composition space, not %s", target.Name)
	}
	check, ok := linkKinds[l.Kind]
	if !ok {
		return fmt.Errorf("%q is not a kind of link; use %s", Clip(string(l.Kind)), kindsOfLinks())
	}
	return check(l, target)
}

// Spaced reports whether a link can give the property, or a component of it, in the composition's space.
func (s *Spec) Spaced() bool {
	_, _, vertex := VertexOf(s.Key)
	return vertex || s.Key == OwnVertex || s.Key == "position" || s.Key == "rotation"
}

// Extra reports whether a property has a slot only while something is set or asked
// of it: a vertex, the weight of a link.
func Extra(key string) bool {
	_, _, vertex := VertexOf(key)
	_, weight := WeightOf(key)
	return vertex || weight
}

// Within returns the specification with the limits that the designer set on this item's property.
func (s *Spec) Within(state *State) *Spec {
	if state == nil || !state.Limited() {
		return s
	}
	out := s.within(Limits{state.Min, state.Max})
	if len(state.Limits) > 0 {
		for _, part := range s.Type.Components() {
			out.parts = append(out.parts, out.within(state.Limits[part]))
		}
	}
	return out
}

func (s *Spec) within(l Limits) *Spec {
	out := *s
	out.parts = nil
	if l.Min != nil {
		out.Min = math.Min(s.Max, math.Max(s.Min, *l.Min)) // what it is by its kind holds whatever is set
	}
	if l.Max != nil {
		out.Max = math.Max(out.Min, math.Min(s.Max, *l.Max))
	}
	return &out
}
