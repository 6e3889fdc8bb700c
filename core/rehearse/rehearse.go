// Package rehearse sweeps the controls of a composition over their ranges, without touching the document, and finds what goes
// wrong on the way: jumps, results that are not finite, limits that are reached, things that leave the frame, controls that move
// nothing, members that overlap.
package rehearse

import (
	"cmp"
	"fmt"
	"iter"
	"math"
	"slices"

	"wunderkammer/core/check"
	"wunderkammer/core/engine"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// Options say what is moved in a rehearsal, from which frame, and what is told of it.
type Options struct {
	Controls []scene.Ref `json:"controls,omitempty"` // that are swept; none: all that nothing drives
	Frame    int         `json:"frame"`              // at which
	Overlaps bool        `json:"overlaps,omitempty"` // whether members of rows that overlap are told
}

// Setting is a control with the value that it is set to.
type Setting struct {
	Ref   scene.Ref   `json:"ref"`
	Value scene.Value `json:"value"`
}

// Finding is something that goes wrong while controls are moved.
type Finding struct {
	Severity check.Severity `json:"severity"`
	At       scene.Ref      `json:"at"`
	Sentence string         `json:"sentence"`
	Frame    int            `json:"frame"`
	Settings []Setting      `json:"settings" ts:"list"` // how the controls stand at that moment; all others as they are in the document
	// Others is how many more there are of the same sort from the same cause; the sentence says so.
	Others int `json:"others,omitempty"`

	weight float64 // among those of the same severity, the gravest first
	sort   string
	cause  string // what findings of one sort have in common that are one; empty: nothing
}

// Progress says how far a rehearsal has come.
type Progress struct {
	Done int `json:"done"` // moments
	Of   int `json:"of"`
}

// Bounds of what one rehearsal looks at.
const (
	steps    = 48  // along the range of a fader or dial
	maxPairs = 600 // of controls, at their ends
	most     = 3   // findings of one sort for one control
)

// Rehearsal is one run over the controls of a composition. It works on a copy.
type Rehearsal struct {
	options  Options
	c        *scene.Composition
	p        *engine.Plan
	controls []*control
	rest     []float64 // the values where all controls stand as they do in the document
	driven   []engine.DrivenSlot
	boxes    map[int32]box
	found    []Finding
	done, of int
	told     map[string]bool
	causes   map[string]int // where what a cause leads to is in found
}

// New makes a rehearsal ready on a copy of the composition, with every control where it is at the frame; nothing is moved yet.
func New(c *scene.Composition, o Options) *Rehearsal {
	r := &Rehearsal{options: o, c: c.Clone(), told: map[string]bool{}, causes: map[string]int{}, boxes: map[int32]box{}}
	r.p = engine.New(r.c)
	r.p.Evaluate(float64(o.Frame))
	if r.findControls(c); len(r.controls) > 0 {
		r.p = engine.New(r.c) // without what moved the controls
	}
	r.rest = slices.Clone(r.p.Evaluate(float64(o.Frame)))
	r.driven = r.p.DrivenSlots()
	r.measure()
	for _, k := range r.controls {
		r.of += len(k.values) + 2*len(k.ends)
	}
	r.of += 4 * len(r.pairs())
	return r
}

// Run goes through the rehearsal and gives its progress at every moment; it ends early where that is not wanted any more. What was
// found so far can be asked for at any time.
func (r *Rehearsal) Run() iter.Seq[Progress] {
	return func(yield func(Progress) bool) {
		going := true
		moment := func() bool {
			r.done = min(r.done+1, r.of-1)
			going = going && yield(Progress{r.done, r.of})
			return going
		}
		r.fights()
		for _, k := range r.controls {
			if !r.sweep(k, moment) {
				return
			}
		}
		if !r.idle(moment) {
			return
		}
		for _, pair := range r.pairs() {
			if !r.together(pair[0], pair[1], moment) {
				return
			}
		}
		r.done = r.of
		yield(Progress{r.of, r.of})
	}
}

// Found returns what was found, the gravest first.
func (r *Rehearsal) Found() []Finding {
	out := append([]Finding{}, r.found...)
	for k, f := range out {
		if f.Others > 0 {
			one, many := others(f.sort)
			if f.Others == 1 {
				out[k].Sentence += "; so " + one
			} else {
				out[k].Sentence += fmt.Sprintf("; so "+many, f.Others)
			}
		}
	}
	slices.SortStableFunc(out, func(a, b Finding) int {
		return cmp.Or(cmp.Compare(rank(a.Severity), rank(b.Severity)), cmp.Compare(b.weight, a.weight))
	})
	return out
}

func rank(s check.Severity) int {
	if s == check.Error {
		return 0
	}
	return 1
}

// others says of how many more the same is true.
func others(sort string) (one, many string) {
	switch sort {
	case "overlap":
		return "does another pair", "do %d other pairs"
	case "leaves":
		return "does another item", "do %d other items"
	}
	return "has another property", "have %d other properties"
}

// add notes a finding, of each sort once for a control and what is affected; those of one cause are one.
func (r *Rehearsal) add(sort string, f Finding) {
	key := fmt.Sprint(sort, "/", f.At.Item, "/", f.At.Property)
	if sort == "" || r.told[key] {
		return
	}
	r.told[key] = true
	if f.cause != "" {
		cause := sort + "/" + f.cause
		if at, known := r.causes[cause]; known {
			r.found[at].Others++
			return
		}
		r.causes[cause] = len(r.found)
	}
	f.sort = sort
	f.Frame = r.options.Frame
	r.found = append(r.found, f)
}

// evaluate shows the composition with some controls set, and returns all values. They belong to the plan.
func (r *Rehearsal) evaluate(settings ...Setting) []float64 {
	for _, s := range settings {
		r.set(s.Ref, s.Value)
	}
	values := r.p.Evaluate(float64(r.options.Frame))
	return values
}

// restore sets controls to what they are in the document.
func (r *Rehearsal) restore(controls ...*control) {
	for _, k := range controls {
		r.set(k.ref, k.own)
	}
}

func (r *Rehearsal) set(ref scene.Ref, v scene.Value) {
	item := r.c.Item(ref.Item)
	item.Edit(ref.Property).Own = v
	r.p.Patch(ref)
}

// name writes a control with a value.
func (r *Rehearsal) name(s Setting) string {
	return fmt.Sprintf("%s at %s", r.c.NameOf(s.Ref), told(s.Value))
}

// told writes a value with few digits.
func told(v scene.Value) string {
	for k := range v.Len() {
		v = v.With(k, math.Round(v.At(k)*100)/100)
	}
	return v.String()
}

// fights finds properties on which a link takes no part, since one above it replaces all that it does.
func (r *Rehearsal) fights() {
	for _, k := range check.Of(r.c, r.p) {
		if k.Hidden {
			r.add("fight", Finding{Severity: check.Warning, At: k.At, Sentence: k.Sentence, weight: 2})
		}
	}
}

// box is where something reaches in its own space, as it stands at rest.
type box struct{ left, bottom, right, top float64 }

// measure notes how large what is drawn flat is.
func (r *Rehearsal) measure() {
	for i, item := range r.p.Layout.Items {
		class := item.Kind.Class()
		if !r.p.Shown(int32(i)) || class != scene.Outlined && class != scene.Pictured {
			continue
		}
		shape := r.p.Shape(int32(i))
		if b := shape.Box(); len(shape.Verbs) > 0 {
			r.boxes[int32(i)] = box{b.Left, b.Bottom, b.Right, b.Top}
		}
	}
}

// placed returns where something reaches that stands at a place.
func (b box) placed(m num.Affine) box {
	out := box{math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)}
	for _, corner := range [][3]float64{{b.left, b.bottom}, {b.right, b.bottom}, {b.right, b.top}, {b.left, b.top}} {
		at := m.Apply(corner)
		out.left, out.right = min(out.left, at[0]), max(out.right, at[0])
		out.bottom, out.top = min(out.bottom, at[1]), max(out.top, at[1])
	}
	return out
}

// over reports whether two boxes overlap.
func (b box) over(o box) bool {
	return b.left < o.right && o.left < b.right && b.bottom < o.top && o.bottom < b.top
}

// outside reports whether nothing of a box lies within the frame of the composition.
func (r *Rehearsal) outside(b box) bool {
	w, h := float64(r.c.Width)/2, float64(r.c.Height)/2
	return !b.over(box{-w, -h, w, h})
}
