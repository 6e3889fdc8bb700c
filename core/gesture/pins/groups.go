package pins

import (
	"fmt"
	"maps"
	"math"
	"slices"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// Landing says what becomes of a pin where another one is put.
type Landing struct {
	// Replace lets what is moved take the place of what is there. Without it, the gesture asks first.
	Replace bool `json:"replace,omitempty"`
}

// Replaced is what a gesture asks where pins would be put onto others.
const Replaced = "replace"

// lands gathers the operations that put pins of several properties onto frames, and what stands there.
type lands struct {
	c      *gesture.Context
	ops    change.Ops
	onto   []string // properties of which something is taken the place of, by name
	number int      // of pins that are
	pins   []gesture.PinAt
}

// put has pins of a property stand in the place of those at the frames that are dropped.
func (l *lands) put(of change.Of, pins []scene.Pin, drop []int) error {
	slices.SortFunc(pins, func(a, b scene.Pin) int { return a.Frame - b.Frame })
	state := l.c.Composition.Item(of.Item).State(of.Property)
	gone := make(map[int]bool, len(drop))
	for _, f := range drop {
		gone[f] = true
	}
	name := l.c.Composition.NameOf(scene.Ref{Item: of.Item, Property: of.Property})
	taken := 0
	for k, pin := range pins {
		if k > 0 && pins[k-1].Frame == pin.Frame {
			return fmt.Errorf("two pins of %s would lie on frame %d; leave more room between them", name, pin.Frame)
		}
		if _, there := state.PinAt(pin.Frame); there && !gone[pin.Frame] {
			taken++
		}
	}
	if taken > 0 {
		l.onto, l.number = append(l.onto, name), l.number+taken
	}
	l.ops = append(l.ops, &change.PinsPut{Of: of, Drop: drop, Pins: pins})
	l.pins = append(l.pins, at(of, pins)...)
	return nil
}

// at names pins of a property.
func at(of change.Of, pins []scene.Pin) (out []gesture.PinAt) {
	for _, p := range pins {
		out = append(out, gesture.PinAt{Item: of.Item, Property: of.Property, Frame: p.Frame})
	}
	return out
}

// result returns the operations, or asks first where pins would go that were not picked.
func (l *lands) result(how Landing) gesture.Result {
	if l.number == 0 {
		return gesture.Result{Ops: l.ops, Pins: l.pins}
	}
	where := l.onto[0]
	if len(l.onto) > 1 {
		where = fmt.Sprintf("%s and %d more", where, len(l.onto)-1)
	}
	if how.Replace {
		return gesture.Result{Ops: l.ops, Pins: l.pins, Note: fmt.Sprintf("replaced %s of %s", gesture.Plural(l.number, "pin"), where)}
	}
	return gesture.Result{Asks: Replaced, Note: fmt.Sprintf("there is a pin of %s at that frame already", where)}
}

// retimed puts the picked pins onto other frames, each property by itself. What turns round goes the same way back.
func retimed(c *gesture.Context, groups []*picked, to func(row int, frame int) float64, how Landing) (gesture.Result, error) {
	l := &lands{c: c}
	for row, p := range groups {
		drop := p.frames()
		slices.SortFunc(p.pins, func(a, b scene.Pin) int { return a.Frame - b.Frame })
		first, last := p.pins[0].Frame, p.pins[len(p.pins)-1].Frame
		back := to(row, last) < to(row, first)
		if back { // each span belongs to the pin at its other end then
			for k := 0; k < len(p.pins)-1; k++ {
				p.pins[k].Easing = p.pins[k].Easing.Turned()
			}
			last := p.pins[len(p.pins)-1].Easing
			for k := len(p.pins) - 1; k > 0; k-- {
				p.pins[k].Easing = p.pins[k-1].Easing
			}
			p.pins[0].Easing = last // of what comes behind them
			for k := range p.pins {
				p.pins[k].Lead, p.pins[k].Arrive = p.pins[k].Arrive, p.pins[k].Lead
			}
		}
		for k := range p.pins {
			f := math.Round(to(row, p.pins[k].Frame))
			if math.Abs(f) > scene.MaxFrames {
				return gesture.Result{}, fmt.Errorf("frame %g lies outside of any composition; keep the pins nearer", f)
			}
			p.pins[k].Frame = int(f)
		}
		if err := l.put(p.of, p.pins, drop); err != nil {
			return gesture.Result{}, err
		}
	}
	return l.result(how), nil
}

// StretchPins stretches pins of any properties in time: what lies at one frame stays there, what lies at another goes to a third, all
// others go along. Stretched through what stays, they turn round.
type StretchPins struct {
	Pins  []gesture.PinAt `json:"pins"`
	Stays int             `json:"stays"` // a frame
	From  int             `json:"from"`  // a frame
	To    int             `json:"to"`    // where that goes
	Landing
}

// Do returns the operations that move the pins. It is an error where two of one property would come to lie on the same frame.
func (g *StretchPins) Do(c *gesture.Context) (gesture.Result, error) {
	groups, err := gather(c, g.Pins)
	if err != nil || g.From == g.To {
		return gesture.Result{}, err
	}
	if g.From == g.Stays {
		return gesture.Result{}, fmt.Errorf("pins at one frame can't be stretched; select some that lie apart")
	}
	by := float64(g.To-g.Stays) / float64(g.From-g.Stays)
	return retimed(c, groups, func(_, frame int) float64 { return float64(g.Stays) + float64(float64(frame-g.Stays)*by) }, g.Landing)
}

// ReversePins turns the order of pins round, within the stretch of time that all of them take.
type ReversePins struct {
	Pins []gesture.PinAt `json:"pins"`
	Landing
}

// Do returns the operations that move the pins; each span goes the same way back.
func (g *ReversePins) Do(c *gesture.Context) (gesture.Result, error) {
	groups, err := gather(c, g.Pins)
	if err != nil || len(groups) == 0 {
		return gesture.Result{}, err
	}
	first, last := g.Pins[0].Frame, g.Pins[0].Frame
	for _, p := range g.Pins {
		first, last = min(first, p.Frame), max(last, p.Frame)
	}
	return retimed(c, groups, func(_, frame int) float64 { return float64(first + last - frame) }, g.Landing)
}

// SpreadPins puts the pins of each property at even distances between its first and its last.
type SpreadPins struct {
	Pins []gesture.PinAt `json:"pins"`
	Landing
}

// Do returns the operations that move the pins.
func (g *SpreadPins) Do(c *gesture.Context) (gesture.Result, error) {
	groups, err := gather(c, g.Pins)
	if err != nil {
		return gesture.Result{}, err
	}
	places := make([]map[int]float64, len(groups))
	for row, p := range groups {
		frames := p.frames()
		slices.Sort(frames)
		places[row] = map[int]float64{}
		for k, f := range frames {
			places[row][f] = float64(frames[0])
			if k > 0 {
				places[row][f] += float64(float64(frames[len(frames)-1]-frames[0])*float64(k)) / float64(len(frames)-1)
			}
		}
	}
	return retimed(c, groups, func(row, frame int) float64 { return places[row][frame] }, g.Landing)
}

// EvenSpeed moves the pins of points in time so that the point goes along its way at one speed, from the first of the picked pins to
// the last: each comes after as much of the time as it is of the way. It does so to a whole frame; how each span is eased stays.
type EvenSpeed struct {
	Pins []gesture.PinAt `json:"pins"`
	Landing
}

// steps is how many pieces of each span its length is summed up of.
const steps = 64

// way returns how far a point has gone along its way at each of some frames, which are in rising order, from the first of them on.
func (p *picked) way(frames []int) []float64 {
	way := make([]float64, len(frames))
	tracks := p.spec.Tracks(p.item.State(p.spec.Key).Pins, nil)
	last := make([]float64, len(tracks))
	for n := 1; n < len(frames); n++ {
		way[n] = way[n-1]
		for s := range steps + 1 {
			far := 0.0
			f := float64(frames[n-1]) + float64(float64(frames[n]-frames[n-1])*float64(s)/steps)
			for k := range tracks {
				now := tracks[k].At(f)
				far += float64((now - last[k]) * (now - last[k]))
				last[k] = now
			}
			if s > 0 {
				way[n] += math.Sqrt(far)
			}
		}
	}
	return way
}

// Do returns the operations that move the pins.
func (g *EvenSpeed) Do(c *gesture.Context) (gesture.Result, error) {
	groups, err := gather(c, g.Pins)
	if err != nil {
		return gesture.Result{}, err
	}
	places := make([]map[int]float64, len(groups))
	some := false
	for row, p := range groups {
		places[row] = map[int]float64{}
		frames := p.frames()
		slices.Sort(frames)
		for _, f := range frames {
			places[row][f] = float64(f)
		}
		if p.spec.Type.Size() < 2 || p.spec.Type == scene.Colour || len(frames) < 3 {
			continue
		}
		way := p.way(frames)
		first, end := frames[0], frames[len(frames)-1]
		if whole := way[len(way)-1]; whole > 0 && end-first >= len(frames)-1 {
			some = true
			before := first
			for n := 1; n < len(frames)-1; n++ {
				to := first + int(math.Round(float64(float64(end-first)*way[n])/whole))
				before = min(max(to, before+1), end-(len(frames)-1-n)) // a frame at least for each
				places[row][frames[n]] = float64(before)
			}
		}
	}
	if !some {
		return gesture.Result{}, fmt.Errorf("select three pins or more of a point that moves")
	}
	return retimed(c, groups, func(row, frame int) float64 { return places[row][frame] }, g.Landing)
}

// StaggerPins moves the pins of each property later than those of the one before, in the order in which they are named.
type StaggerPins struct {
	Pins []gesture.PinAt `json:"pins"`
	By   int             `json:"by"` // frames from one property to the next
	Landing
}

// Do returns the operations that move the pins.
func (g *StaggerPins) Do(c *gesture.Context) (gesture.Result, error) {
	groups, err := gather(c, g.Pins)
	if err != nil || g.By == 0 {
		return gesture.Result{}, err
	}
	if len(groups) < 2 {
		return gesture.Result{}, fmt.Errorf("select pins of several controls to stagger them")
	}
	return retimed(c, groups, func(row, frame int) float64 { return float64(frame + row*g.By) }, g.Landing)
}

// PinClip is pins that were copied, to be pasted at another frame or onto other properties.
type PinClip struct {
	Rows []PinRow `json:"rows" ts:"list"`
}

// PinRow is the pins of one property, their frames counted from the first of the clip.
type PinRow struct {
	Ref  scene.Ref   `json:"ref"`
	Type scene.Type  `json:"type"`
	Pins []scene.Pin `json:"pins" ts:"list"`
}

// Copy returns a clip of pins; those that are no longer there are left out.
func Copy(c *scene.Composition, named []gesture.PinAt) (clip PinClip) {
	clip.Rows = []PinRow{}
	first := math.MaxInt
	for _, n := range named {
		first = min(first, n.Frame)
	}
	for _, n := range named {
		item := c.Item(n.Item)
		if item == nil || item.Spec(n.Property) == nil {
			continue
		}
		state := item.State(n.Property)
		at, there := state.PinAt(n.Frame)
		if !there {
			continue
		}
		ref := scene.Ref{Item: n.Item, Property: n.Property}
		k := slices.IndexFunc(clip.Rows, func(r PinRow) bool { return r.Ref == ref })
		if k < 0 {
			k = len(clip.Rows)
			clip.Rows = append(clip.Rows, PinRow{Ref: ref, Type: item.Spec(n.Property).Type})
		}
		pin := state.Pins[at]
		pin.Frame -= first
		clip.Rows[k].Pins = append(clip.Rows[k].Pins, pin)
	}
	return clip
}

// PastePins puts copied pins at the playhead: onto what they were copied from, or, where targets are given, onto those in order, as
// far as they take such values.
type PastePins struct {
	Clip    PinClip     `json:"clip"`
	Targets []scene.Ref `json:"targets,omitempty"`
	Landing
}

// Do returns the operations that put the pins; what fits nowhere is told.
func (g *PastePins) Do(c *gesture.Context) (gesture.Result, error) {
	l := &lands{c: c}
	left := 0
	for k, row := range g.Clip.Rows {
		ref := row.Ref
		if len(g.Targets) > 0 {
			if k >= len(g.Targets) {
				left++
				continue
			}
			ref = g.Targets[k]
		}
		item, spec, err := c.Property(ref)
		if err != nil || spec.Type != row.Type || spec.ReadOnly {
			left++
			continue
		}
		pins := slices.Clone(row.Pins)
		for n := range pins {
			pins[n].Frame += c.Frame
		}
		if err := l.put(c.Of(item.ID, spec.Key), pins, nil); err != nil {
			return gesture.Result{}, err
		}
	}
	if len(l.ops) == 0 {
		return gesture.Result{}, fmt.Errorf("none of the copied pins fits here; select controls of the same kind")
	}
	r := l.result(g.Landing)
	if left > 0 && r.Asks == "" {
		r.Note = fmt.Sprintf("pins of %s were left out, which nothing here takes", gesture.Plural(left, "control"))
	}
	return r, nil
}

// InsertTime makes room in time, or takes some out: all pins, and of everything the markers, from a frame on go later, or earlier.
type InsertTime struct {
	At     int `json:"at"`     // a frame
	Frames int `json:"frames"` // that come in there; below 0, as many behind it go, with the pins on them
	// Item is the drawer whose controls it is about; empty for everything in the composition, which becomes longer or shorter by as
	// much.
	Item scene.ID `json:"item,omitempty"`
}

// Do returns the operations that move the pins.
func (g *InsertTime) Do(c *gesture.Context) (gesture.Result, error) {
	if g.Frames == 0 {
		return gesture.Result{}, nil
	}
	var r gesture.Result
	items := c.Composition.Items
	if g.Item != "" {
		item, err := c.Item(g.Item)
		if err != nil {
			return r, err
		}
		items = []*scene.Item{item}
	} else {
		frames := c.Composition.Frames + g.Frames
		if frames < 1 || frames > scene.MaxFrames {
			return r, fmt.Errorf("the composition would have %d frames; it has from 1 to %d", frames, scene.MaxFrames)
		}
		r.Ops = append(change.Ops{&change.CompositionSet{In: c.In(), Frames: &frames}}, markersAlong(c, g.At, g.Frames)...)
	}
	moved, gone := 0, 0
	for _, item := range items {
		for _, key := range slices.Sorted(maps.Keys(item.States)) {
			state := item.State(key)
			if g.Item != "" && item.Control(scene.ID(key)) == nil || len(state.Pins) == 0 {
				continue
			}
			put := &change.PinsPut{Of: c.Of(item.ID, key)}
			for _, pin := range state.Pins {
				if pin.Frame < g.At {
					continue
				}
				put.Drop = append(put.Drop, pin.Frame)
				if pin.Frame < g.At-g.Frames { // within what is taken out
					gone++
					continue
				}
				pin.Frame += g.Frames
				put.Pins = append(put.Pins, pin)
			}
			moved += len(put.Pins)
			switch {
			case len(put.Drop) == 0:
			case len(put.Pins) == 0 && len(put.Drop) == len(state.Pins):
				if spec := item.Spec(key); spec != nil {
					r.Ops = append(r.Ops, without(c, item, spec, put.Drop)...)
				}
			case len(put.Pins) == 0:
				r.Ops = append(r.Ops, &change.PinsDrop{Of: put.Of, Frames: put.Drop})
			default:
				r.Ops = append(r.Ops, put)
			}
		}
	}
	if len(r.Ops) == 0 {
		return r, fmt.Errorf("nothing has pins from frame %d on", g.At)
	}
	what := fmt.Sprintf("%s put in at frame %d", gesture.Plural(max(g.Frames, -g.Frames), "frame"), g.At)
	if g.Frames < 0 {
		what = fmt.Sprintf("%s taken out at frame %d, with %s", gesture.Plural(-g.Frames, "frame"), g.At, gesture.Plural(gone, "pin"))
	}
	r.Note = fmt.Sprintf("%s; %s moved", what, gesture.Plural(moved, "pin"))
	return r, nil
}

// SetPins gives all of some pins a value, or a component of it. A pin that takes no such value is an error.
type SetPins struct {
	Pins      []gesture.PinAt `json:"pins"`
	Value     scene.Value     `json:"value"`
	Component string          `json:"component,omitempty"`
}

// Do returns the operations that set the values.
func (g *SetPins) Do(c *gesture.Context) (gesture.Result, error) {
	groups, err := gather(c, g.Pins)
	if err != nil {
		return gesture.Result{}, err
	}
	var r gesture.Result
	for _, p := range groups {
		for k := range p.pins {
			v := g.Value
			if n, ok := p.spec.Type.Component(g.Component); g.Component != "" {
				if !ok || v.Len() != 1 {
					return gesture.Result{}, fmt.Errorf("%s: %s has no component %s", p.item.Name, p.spec.Name, scene.Clip(g.Component))
				}
				v = p.pins[k].Value.With(n, v.At(0))
			}
			if err := v.Fits(p.spec.Type); err != nil {
				return gesture.Result{}, fmt.Errorf("%s: %s: %w", p.item.Name, p.spec.Name, err)
			}
			p.pins[k].Value = v
		}
		r.Ops, r.Pins = append(r.Ops, &change.PinsPut{Of: p.of, Pins: p.pins}), append(r.Pins, at(p.of, p.pins)...)
	}
	return r, nil
}
