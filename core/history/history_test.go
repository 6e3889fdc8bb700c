package history

import (
	"math"
	"slices"
	"testing"

	"wunderkammer/core/layout"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// row is a null with a slider, and boxes of which each trails the one before by some frames, a little less than it, the first the slider.
func row(delays ...float64) *scene.Composition {
	c := scene.NewComposition("main", "C")
	rig := &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{{ID: "turn", Name: "Turn", Kind: scene.Fader, Default: scene.Num(0)}}}
	c.Items = []*scene.Item{rig}
	from := scene.Ref{Item: "rig", Property: "turn"}
	for i, delay := range delays {
		item := &scene.Item{ID: scene.ID(rune('a' + i)), Name: "Box", Kind: scene.Rectangle}
		item.Edit("rotation").Links = []*scene.Link{{ID: "l", Kind: scene.Follow, Source: from, Gain: 0.97, Delay: delay}}
		c.Items = append(c.Items, item)
		from = scene.Ref{Item: item.ID, Property: "rotation"}
	}
	return c
}

// evaluation stands in for the engine: every slot is ten times the frame, and the place of the slot among those of
// its slice more. It counts how it is asked.
type evaluation struct {
	l         *layout.Layout
	keeper    *Keeper
	at, over  int
	looksBack map[int32]int32 // by slot: what it looks at, a frame earlier
}

type slice struct {
	e     *evaluation
	slots []int32
}

func (s *slice) At(frame float64, out []float64) {
	s.e.at++
	for k := range out {
		out[k] = 10*frame + float64(k)
	}
}

func (s *slice) Over(frames []float64, out [][]float64) {
	s.e.over++
	if !slices.IsSorted(frames) {
		panic("the frames are in no order")
	}
	for k := range out {
		for i, f := range frames {
			out[k][i] = 10*f + float64(k)
		}
	}
}

func (s *slice) Blocks(frames int) bool { return frames > 2 }

func (s *slice) Ask(frames []float64) {
	for _, slot := range s.Looks() {
		s.e.keeper.WantEarlier(slot, frames, 1)
	}
}

func (s *slice) Reads(slot int32) bool { return slices.Contains(s.slots, slot) }

func (s *slice) Looks() (out []int32) {
	for _, slot := range s.slots {
		if back, ok := s.e.looksBack[slot]; ok {
			out = append(out, back)
		}
	}
	return out
}

// kept makes a keeper for a composition, and returns the slots that it keeps: of the turn, and of boxes.
func kept(t *testing.T, c *scene.Composition) (e *evaluation, slots []int32) {
	t.Helper()
	l := layout.Of(c)
	order, cycle := wire.Sort(l, wire.Targets(l))
	if cycle != nil {
		t.Fatal(cycle)
	}
	e = &evaluation{l: l, looksBack: map[int32]int32{}}
	_, last := l.Find("rig", "turn")
	slots = append(slots, last)
	for _, item := range c.Items[1:] {
		_, slot := l.Find(item.ID, "rotation")
		e.looksBack[slot], last = last, slot
		slots = append(slots, slot)
	}
	e.keeper = New(Source{
		Layout: l, Order: order,
		Slice:    func(slots []int32) Slice { return &slice{e, slots} },
		Farthest: func(int32) float64 { return 0 },
	}, Usual)
	return e, slots
}

func TestWhatNothingLooksAtHasNoHistory(t *testing.T) {
	e, slots := kept(t, row(1, 1))
	if v := e.keeper.Value(slots[2], 5, 5); v == v {
		t.Errorf("the last has %v", v)
	}
	if e.keeper.Want(slots[2], 5) || e.keeper.Count() != 2 {
		t.Errorf("%d histories", e.keeper.Count())
	}
}

// What is wanted is worked out at once, the lowest first, and kept.
func TestWhatIsWantedIsWorkedOutAtOnce(t *testing.T) {
	e, slots := kept(t, row(1, 1, 1))
	k := e.keeper
	for _, frame := range []float64{9, 3, 7, 3, 5} {
		if !k.Want(slots[2], frame) {
			t.Errorf("frame %v is kept already", frame)
		}
	}
	k.Want(slots[2], math.Inf(1)) // which is nowhere
	k.Fetch()
	if e.over != 3 || e.at != 0 {
		t.Errorf("they were worked out in %d runs and %d by themselves", e.over, e.at)
	}
	for _, frame := range []float64{3, 5, 7, 9} {
		if k.Want(slots[2], frame) || k.Want(slots[1], frame-1) || k.Want(slots[0], frame-2) {
			t.Errorf("frame %v is not kept", frame)
		}
		if v := k.Value(slots[2], frame, 9); v != 10*frame {
			t.Errorf("at frame %v it was %v", frame, v)
		}
	}
	if v := k.Value(slots[2], 4.5, 9); v != 45 { // looked at without having been wanted
		t.Errorf("at frame 4.5 it was %v", v)
	}
}

// What was played is known without being worked out; where a value changes, what depends on it is forgotten, and no more.
func TestWhatWasPlayedIsKnownUntilItChanges(t *testing.T) {
	e, slots := kept(t, row(1, 1, 1))
	values := make([]float64, e.l.Size)
	for frame := range 10 {
		for _, s := range slots {
			values[s] = float64(100 * frame)
		}
		e.keeper.Keep(float64(frame), values)
	}
	if v := e.keeper.Value(slots[1], 4, 9); v != 400 || e.at+e.over > 0 {
		t.Errorf("it was %v, after %d runs", v, e.at+e.over)
	}
	for _, s := range slots[:3] { // slices are there
		e.keeper.Value(s, 20, 20)
	}
	depends := e.keeper.Changed(slots[1:2])
	if v := e.keeper.Value(slots[1], 4, 9); v != 40 {
		t.Errorf("after a change it is %v", v)
	}
	if v := e.keeper.Value(slots[1], 9, 9); v != 90 {
		t.Errorf("at the frame that was played last it is %v", v)
	}
	if v := e.keeper.Value(slots[2], 4, 9); v != 40 {
		t.Errorf("what trails it is %v", v)
	}
	if v := e.keeper.Value(slots[0], 4, 9); v != 400 {
		t.Errorf("what it trails is %v", v)
	}
	if !depends(&slice{e, slots[3:]}) || depends(&slice{e, slots[:1]}) {
		t.Error("it does not say what depends on the change")
	}
}

func TestWhatIsKeptIsBounded(t *testing.T) {
	e, slots := kept(t, row(1))
	e.keeper.Numbers = 1000
	for frame := range 5000 {
		e.keeper.Bound(float64(frame))
		e.keeper.Value(slots[0], float64(frame), float64(frame))
		if e.keeper.kept > 1002 {
			t.Fatalf("at frame %d %d numbers are kept", frame, e.keeper.kept)
		}
	}
	e.at = 0
	e.keeper.Value(slots[0], 4950, 4999)
	if e.at > 0 {
		t.Error("a frame shortly before is not kept")
	}
}

// Sums since frame 0 are taken over the middles of frames, by the second.
func TestAreasAddUp(t *testing.T) {
	e, slots := kept(t, row(1))
	out := []float64{0}
	e.keeper.Area(out, []float64{50}, []float64{float64(slots[0])}, asker{})
	if want := 10 * 50.0 * 50 / 2 / 25; math.Abs(out[0]-want) > 1e-9 {
		t.Errorf("it adds up to %v, want %v", out[0], want)
	}
	e.keeper.Average(out, []float64{50}, []float64{float64(slots[0])}, []float64{10}, asker{})
	if math.Abs(out[0]-450) > 1e-9 {
		t.Errorf("its mean is %v, want 450", out[0])
	}
}

type asker struct{}

func (asker) Now(int) float64 { return 50 }
func (asker) Foresee()        {}
