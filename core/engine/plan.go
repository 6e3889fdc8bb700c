// Package engine evaluates a composition: every property of every item at a time, in one flat
// array that is laid out once for each change of structure.
//
// Evaluate is a pure function of the document and the frame: playing, scrubbing and jumping give
// the same bits, on the server and in the browser.
package engine

import (
	"errors"
	"math"

	"wunderkammer/core/curve"
	"wunderkammer/core/history"
	"wunderkammer/core/layout"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// Plan is a composition made ready for evaluation. It stays valid until the structure of the
// composition changes (an item, control or link added, moved, removed or altered); changes of own
// values and pins are brought in with Patch.
type Plan struct {
	Layout *layout.Layout
	Cycle  *wire.Cycle // the first cycle that links run in; nil for none
	// Suspended are the links that are left out, so that nothing runs in a cycle.
	Suspended []*scene.Link
	// Stop is asked now and then while something is evaluated: where it says so, evaluating ends with a
	// panic of Stopped, and the plan is of no use any more. Nil: never.
	Stop func() bool

	order    *wire.Order
	now      snapshot
	start    []float64 // by slot: the own value within its limits, which is what it shows where nothing drives it
	past     *history.Keeper
	then     []*snapshot   // for looks at other times, and from there at others; made when first needed
	depth    int           // how many of them are in use
	asking   *asking       // how the frame itself looks at other times; made when first needed
	foreseen bool          // all that the frame looks at was asked for
	blocks   []*frameBlock // to be used again
	levels   []level
	words    *words

	tracks  []pinned
	trackOf map[int32]int // by the first slot of the property
	wired   []bool        // by slot

	rate      float64 // frames a second
	place     []layout.PlaceSlots
	posing    []bool // by item: hangs on its parent in another way than wholly
	moves     []bool // by item: its place can change from frame to frame
	emitters  map[int32]*emitter
	touched   []int32              // items that changed otherwise than from frame to frame, since a tracker looked
	wirings   int                  // how often links or pins came or went
	redone    bool                 // all places were worked out again, since a watcher looked
	wider     *Plan                // see wide
	copied    map[int32]*copying   // by item of kind copies
	copiedFor int                  // the wirings when they were found
	inside    []bool               // by item: copies show it
	alone     map[int32]num.Affine // where items whose copies are shown stand by themselves
	looks     map[int32][]int32    // by item: see Copied.Looks
	carries   []carrying           // by stage: where its piece takes it
	aparts    []*apart             // what pieces show at times of their own; made when first evaluated
	feeding   map[int32]bool       // slots of what is worked out of at other times for them
	seenStale bool                 // where all that pieces show is seen is to be worked out again
	changes   int                  // how often values, poses or links were changed
	poses     map[int32]float64    // by slot
	under     map[int32]float64    // what the poses hide
}

// words are the texts that numbers in text slots stand for: of a plan, and of the compositions that pieces show apart.
type words struct {
	texts   []string
	handles map[string]int
}

// Stopped is what evaluating panics with where Stop says so.
var Stopped = errors.New("stopped: it took too long")

// Pause is where whoever works with what was evaluated can be stopped as evaluating can.
func (p *Plan) Pause() { p.pause() }

// pause is where evaluating can be stopped.
func (p *Plan) pause() {
	if p.Stop != nil && p.Stop() {
		panic(Stopped)
	}
}

// New makes a plan. Where links run in a cycle, the newest of them is left out of it. Some properties that nothing
// asks for, such as what can only be read, may be given slots, too.
func New(c *scene.Composition, also ...scene.Ref) *Plan { return made(c, nil, nil, also...) }

// Stoppable is New for a plan that asks now and then whether it should stop, while it is made, too: where stop says so, it
// panics with Stopped.
func Stoppable(c *scene.Composition, stop func() bool) *Plan { return made(c, stop, nil) }

func made(c *scene.Composition, stop func() bool, known *words, also ...scene.Ref) *Plan {
	l := layout.Of(c, also...)
	l.Fed = known != nil
	if known == nil {
		known = &words{handles: map[string]int{}}
	}
	p := &Plan{
		Stop:     stop,
		Layout:   l,
		words:    known,
		trackOf:  map[int32]int{},
		wired:    make([]bool, l.World),
		place:    l.Places(),
		rate:     float64(c.Rate),
		emitters: map[int32]*emitter{},
		poses:    map[int32]float64{},
		under:    map[int32]float64{},
		carries:  make([]carrying, len(l.Stages)),
	}
	p.wire()
	p.pause()
	p.load()
	p.findMoving()
	p.levels = p.levelsOf(p.order.Levels, nil)
	p.findCopies()
	p.aparts = nil // they may have been looked at before all copies were known
	p.findHistories()
	return p
}

// wire puts what the links make in order. Where they run in a cycle, the newest of them is left out.
func (p *Plan) wire() {
	p.pause()
	targets := wire.Targets(p.Layout)
	p.pause()
	order, cycle := wire.Sort(p.Layout, targets)
	p.Cycle = cycle
	for cycle != nil {
		p.pause()
		newest := cycle.Newest()
		if newest == nil {
			panic("a circle without a link: " + cycle.String())
		}
		p.Suspended = append(p.Suspended, newest)
		targets = wire.Targets(p.Layout, p.Suspended...)
		order, cycle = wire.Sort(p.Layout, targets)
	}
	p.order = order
	for k := range targets {
		if slot := targets[k].Slot; slot < p.Layout.World {
			p.wired[slot] = true
		}
	}
}

// load fills all slots with own values; those of formulas hold nothing until they are worked out.
func (p *Plan) load() {
	l := p.Layout
	p.start = make([]float64, l.World)
	p.now = snapshot{own: make([]float64, l.World), values: make([]float64, p.order.Size()), stale: true}
	for s := l.Size; s < len(p.now.values); s++ {
		p.now.values[s] = math.NaN()
	}
	for _, k := range l.Kinds {
		p.loadKind(k)
	}
	known := map[*scene.Item][]still{}
	for i, item := range l.Items {
		p.loadItem(int32(i), item, known)
	}
}

// still is the numbers of a property that does not move by itself, which are the same wherever a piece shows its item.
type still struct {
	property   int
	own, start []float64
}

// stills returns those of an item that pieces show; false where something of it moves, or is no number.
func stills(l *layout.Layout, i int32, item *scene.Item) (out []still, ok bool) {
	if item.Limited() || item.Sound != nil || item.Piece != nil {
		return nil, false
	}
	for key, state := range item.States {
		n, there := l.Property(i, key)
		if !there || n >= len(scene.Of(item.Kind)) {
			continue
		}
		spec := l.Specs(i)[n]
		if len(state.Pins) > 0 || spec.Type == scene.Text || spec.Band() >= 0 {
			return nil, false
		}
		one := still{property: n}
		for c, x := range state.OwnOr(spec).Nums() {
			one.own, one.start = append(one.own, x), append(one.start, spec.Part(c).Limit(x))
		}
		out = append(out, one)
	}
	return out, true
}

// findHistories makes ready to look at other times.
func (p *Plan) findHistories() {
	p.asking = nil
	p.past = history.New(history.Source{
		Layout: p.Layout, Order: p.order,
		Slice:    func(slots []int32) history.Slice { return p.newSlice(slots, nil) },
		Farthest: p.farthest,
		Also:     p.alsoLooked(),
	}, history.Usual)
}

// farthest returns the own value of a slot: of pins the one that lies farthest from 0.
func (p *Plan) farthest(slot int32) float64 {
	x := p.start[slot]
	for c := range int32(4) {
		at, ok := p.trackOf[slot-c]
		if !ok || int(c) >= len(p.tracks[at].tracks) {
			continue
		}
		t := &p.tracks[at]
		if t.tracks[c].Given() { // from elsewhere
			return math.NaN()
		}
		for _, v := range t.tracks[c].Values() {
			if math.Abs(v) > math.Abs(x) {
				x = t.limits.Part(int(c)).Limit(v)
			}
		}
	}
	return x
}

// Crowd lists the properties with formulas that are left out, since the lists of all formulas together would read too much.
func (p *Plan) Crowd() []scene.Ref {
	if p.order == nil { // laid out only
		return nil
	}
	return p.order.Crowd()
}

// LeftOut returns how many looks at other times are left out, since they would ask for too much, and what asks for it.
func (p *Plan) LeftOut() (n int, by []history.Costly) { return p.past.LeftOut() }

// loadKind fills the slots of all items of a kind with its defaults.
func (p *Plan) loadKind(k *layout.Kind) {
	for n, spec := range scene.Of(k.Kind) {
		var x []float64
		if spec.Type == scene.Text {
			x = []float64{p.handle(spec.Default.Str())}
		} else {
			for c := range spec.Default.Len() {
				x = append(x, spec.Limit(spec.Default.At(c)))
			}
		}
		first, to := k.Columns[n].First, k.Columns[n].First+k.Columns[n].Step*int32(len(k.Items)-1)+k.Columns[n].Size
		for _, all := range [][]float64{p.now.own, p.now.values, p.start} {
			repeat(all[first:to], x)
		}
	}
}

// repeat fills a run with some numbers again and again.
func repeat(run, numbers []float64) {
	for n := copy(run, numbers); n < len(run); {
		n += copy(run[n:], run[:n])
	}
}

// loadItem fills the slots of what was set of an item, and of what it has besides the properties of its kind.
func (p *Plan) loadItem(i int32, item *scene.Item, known map[*scene.Item][]still) {
	specs, plain := p.Layout.Specs(i), len(scene.Of(item.Kind))
	list, seen := known[item]
	if !seen && p.Layout.Staged(i) {
		if list, seen = stills(p.Layout, i, item); seen {
			known[item] = list
		}
	}
	switch {
	case seen:
		for _, one := range list {
			slot := p.Layout.Slot(i, one.property)
			copy(p.start[slot:], one.start)
			copy(p.now.own[slot:], one.own)
			copy(p.now.values[slot:], one.start)
		}
	case item.Limited(): // its defaults may lie elsewhere
		plain = 0
	default:
		if item.Sound != nil {
			for n, spec := range specs[:plain] {
				if spec.Band() >= 0 {
					p.loadProperty(i, spec, p.Layout.Slot(i, n))
				}
			}
		}
		for key := range item.States {
			if n, ok := p.Layout.Property(i, key); ok && n < plain {
				p.loadProperty(i, specs[n], p.Layout.Slot(i, n))
			}
		}
	}
	for n := plain; n < len(specs); n++ {
		p.loadProperty(i, specs[n], p.Layout.Slot(i, n))
	}
}

// loadProperty reads the own value and pins of one property into its slots.
func (p *Plan) loadProperty(i int32, spec *scene.Spec, slot int32) {
	item := p.Layout.Items[i]
	state := item.States[spec.Key]
	if item.Piece != nil {
		state = p.given(i, spec, state)
	}
	if state == nil {
		state = &scene.State{}
	}
	p.put(spec, slot, state.OwnOr(spec))
	at, had := p.trackOf[slot]
	track := p.track(item, spec, slot, state)
	switch {
	case len(track.tracks) > 0:
		if had {
			p.tracks[at] = track
		} else {
			p.trackOf[slot] = len(p.tracks)
			p.tracks = append(p.tracks, track)
		}
	case had:
		last := len(p.tracks) - 1
		p.tracks[at] = p.tracks[last]
		p.trackOf[p.tracks[at].slot] = at
		p.tracks = p.tracks[:last]
		delete(p.trackOf, slot)
	}
}

// given returns what stands under the links of a property of a piece: what was set of it, or what its composition does by itself.
// Where that has a time of its own, its pins stay with it.
func (p *Plan) given(i int32, spec *scene.Spec, state *scene.State) *scene.State {
	item := p.Layout.Items[i]
	if state != nil && item.Kept(spec.Key) != nil { // other values than it can have
		state = nil
	}
	if state == nil || state.Own.Absent() && len(state.Pins) == 0 {
		if given, ok := item.Given(spec.Key); ok {
			if at := p.Layout.Showing(i); at > 0 && p.Layout.Stages[at].Apart {
				given.Pins = nil
			}
			return given
		}
	}
	return state
}

func (p *Plan) put(spec *scene.Spec, slot int32, v scene.Value) {
	if spec.Type == scene.Text {
		p.set(slot, p.handle(v.Str()), nil)
		return
	}
	for i := range v.Len() {
		p.set(slot+int32(i), v.At(i), spec.Part(i))
	}
}

// set puts an own value into all snapshots, and within the limits of a property, where it has any, where it shows.
func (p *Plan) set(slot int32, own float64, limits *scene.Spec) {
	p.start[slot] = own
	if limits != nil {
		p.start[slot] = limits.Limit(own)
	}
	p.now.own[slot], p.now.values[slot] = own, p.start[slot]
	for _, c := range p.then {
		c.own[slot], c.values[slot] = own, p.start[slot]
	}
}

// handle returns the number that stands for a text.
func (p *Plan) handle(s string) float64 {
	h, ok := p.words.handles[s]
	if !ok {
		h = len(p.words.texts)
		p.words.handles[s] = h
		p.words.texts = append(p.words.texts, s)
	}
	return float64(h)
}

// track returns how the own value of a property moves: as its sound goes on, or through its pins; with no tracks where it stays.
func (p *Plan) track(item *scene.Item, spec *scene.Spec, slot int32, state *scene.State) pinned {
	t := pinned{slot: slot, limits: spec}
	if band := spec.Band(); band >= 0 && item.Sound != nil {
		t.tracks = []curve.Track{item.Sound.Track(band, p.rate)}
		return t
	}
	if len(state.Pins) == 0 {
		return t
	}
	var number func(scene.Value) float64
	if spec.Type == scene.Text {
		number = func(v scene.Value) float64 { return p.handle(v.Str()) }
	}
	t.tracks = spec.Tracks(state.Pins, number)
	for k := range t.tracks {
		t.tracks[k].GoOn(state.Beyond)
	}
	return t
}
