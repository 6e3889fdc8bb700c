package engine

import (
	"fmt"
	"math"
	"math/rand"
	"reflect"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/layout"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

func ref(item scene.ID, property string) scene.Ref { return scene.Ref{Item: item, Property: property} }

func follow(item scene.ID, property string, gain, offset float64) *scene.Link {
	return &scene.Link{ID: "l", Kind: scene.Follow, Source: ref(item, property), Gain: gain, Offset: offset}
}

// rig is a null with one control of every kind and an item of every drawn kind.
func rig() *scene.Composition {
	c := scene.NewComposition("main", "Rig")
	null := &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{
		{ID: "amount", Name: "Amount", Kind: scene.Fader, SoftMax: 100, Default: scene.Num(40)},
		{ID: "turn", Name: "Turn", Kind: scene.DialWidget, Default: scene.Num(0)},
		{ID: "tint", Name: "Tint", Kind: scene.ColourWidget, Default: scene.RGBA(1, 0.5, 0, 1)},
		{ID: "place", Name: "Place", Kind: scene.PointWidget, Default: scene.Pt(7, 8)},
		{ID: "deep", Name: "Deep", Kind: scene.PointWidget, Depth: true, Default: scene.Pt(1, 2, 3)},
		{ID: "lit", Name: "Lit", Kind: scene.SwitchWidget, Default: scene.On(false)},
	}}
	c.Items = []*scene.Item{
		null,
		{ID: "box", Name: "Box", Kind: scene.Rectangle},
		{ID: "ball", Name: "Ball", Kind: scene.Ellipse},
		{ID: "word", Name: "Word", Kind: scene.TextItem},
		{ID: "copy", Name: "Copy", Kind: scene.TextItem},
	}
	return c
}

func at(t *testing.T, c *scene.Composition, frame float64) *Plan {
	t.Helper()
	p := New(c)
	if p.Cycle != nil {
		t.Fatal(p.Cycle)
	}
	p.Evaluate(frame)
	return p
}

func TestFollowsOfEveryType(t *testing.T) {
	c := rig()
	box, ball, word, copied := c.Items[1], c.Items[2], c.Items[3], c.Items[4]
	box.Edit("rotation").Links = []*scene.Link{follow("rig", "amount", -2, 5)}
	box.Edit("size").Links = []*scene.Link{follow("rig", "amount", 1, 0)}
	box.Edit("position").Own = scene.Pt(0, 0, 9)
	box.Edit("position").Links = []*scene.Link{follow("rig", "place", 1, 0)}
	box.Edit("opacity").Links = []*scene.Link{follow("rig", "amount", 10, 0)} // past the limit
	ball.Edit("fill").Links = []*scene.Link{follow("rig", "tint", 1, 0)}
	ball.Edit("position").Links = []*scene.Link{follow("rig", "deep", 2, 0)}
	ball.Edit("opacity").Links = []*scene.Link{follow("rig", "lit", 100, 0)}
	word.Edit("text").Own = scene.Txt("Ahoy")
	copied.Edit("text").Links = []*scene.Link{follow("word", "text", 1, 0)}
	copied.Edit("rotation").Links = []*scene.Link{follow("box", "rotation", 1, 1)} // a chain
	p := at(t, c, 0)
	for _, w := range []struct {
		of   scene.Ref
		want string
	}{
		{ref("box", "rotation"), "-75"}, {ref("box", "size"), "[40, 40]"}, {ref("box", "position"), "[7, 8, 9]"}, {ref("box", "opacity"), "100"},
		{ref("ball", "fill"), "[1, 0.5, 0, 1]"}, {ref("ball", "position"), "[2, 4, 6]"}, {ref("ball", "opacity"), "0"},
		{ref("copy", "text"), `"Ahoy"`}, {ref("copy", "rotation"), "-74"}, {scene.Ref{Item: "ball", Property: "position", Component: "z"}, "6"},
	} {
		if got := p.Value(w.of).String(); got != w.want {
			t.Errorf("%s is %s, want %s", c.NameOf(w.of), got, w.want)
		}
	}
	if got := p.Own("box", "size").String(); got != "[200, 200]" {
		t.Errorf("the own size under the link is %s", got)
	}
}

func TestWhatIsNotFinitePassesOnTheOwnValue(t *testing.T) {
	c := rig()
	c.Items[0].Edit("amount").Own = scene.Num(1e12)
	c.Items[1].Edit("rotation").Own = scene.Num(12)
	c.Items[1].Edit("rotation").Links = []*scene.Link{follow("rig", "amount", 1e308, 0)}
	if got := at(t, c, 0).Value(ref("box", "rotation")).String(); got != "12" {
		t.Errorf("rotation is %s, want its own value", got)
	}
}

func TestSwitchesTextsAndWholeNumbersHold(t *testing.T) {
	c := rig()
	null := c.Items[0]
	null.Controls[0].Whole = true
	pins := func(a, b scene.Value) []scene.Pin {
		return []scene.Pin{{Frame: 0, Value: a, Easing: curve.Smooth}, {Frame: 10, Value: b, Easing: curve.Smooth}}
	}
	null.Edit("amount").Pins = pins(scene.Num(1), scene.Num(9))
	null.Edit("lit").Pins = pins(scene.On(false), scene.On(true))
	c.Items[3].Edit("text").Pins = pins(scene.Txt("before"), scene.Txt("after"))
	p := at(t, c, 9.9)
	for of, want := range map[string]string{"amount": "1", "lit": "0"} {
		if got := p.Value(ref("rig", of)).String(); got != want {
			t.Errorf("%s is %s between its pins, want %s", of, got, want)
		}
	}
	if got := p.Value(ref("word", "text")).Str(); got != "before" {
		t.Errorf("the text is %q", got)
	}
	p.Evaluate(10)
	if got := p.Value(ref("rig", "amount")).String() + p.Value(ref("rig", "lit")).String() + p.Value(ref("word", "text")).Str(); got != "91after" {
		t.Errorf("at the pin: %s", got)
	}
}

func TestPlacesGoThroughParents(t *testing.T) {
	c := rig()
	c.Items[1].Parent = "rig"
	c.Items[2].Parent = "box"
	c.Items[0].Edit("position").Own = scene.Pt(100, 0, 0)
	c.Items[0].Edit("rotation").Own = scene.Num(90)
	c.Items[1].Edit("position").Own = scene.Pt(10, 0, 0)
	c.Items[1].Edit("scale").Own = scene.Pt(200, 200, 100)
	c.Items[2].Edit("position").Own = scene.Pt(0, 5, 0)
	p := at(t, c, 0)
	m := p.World(p.Layout.Index("ball"))
	if got := m.Apply([3]float64{}); got != [3]float64{90, 10, 0} {
		t.Errorf("the ball stands at %v", got)
	}
}

// busy is a composition with pins, chains and attachments, from a seed.
func busy(seed int64, n int) *scene.Composition {
	r := rand.New(rand.NewSource(seed))
	c := rig()
	for _, key := range []string{"amount", "turn"} {
		for f := 0; f < 300; f += 20 + r.Intn(30) {
			c.Items[0].Edit(key).Pins = append(c.Items[0].Edit(key).Pins, scene.Pin{Frame: f, Value: scene.Num(r.NormFloat64() * 100), Easing: []curve.Easing{curve.Smooth, curve.Linear, curve.Hold}[r.Intn(3)]})
		}
	}
	for i := range n {
		item := &scene.Item{ID: scene.ID(fmt.Sprintf("n%d", i)), Name: fmt.Sprintf("Item %d", i), Kind: scene.Rectangle}
		if i > 0 && r.Intn(2) == 0 {
			item.Parent = scene.ID(fmt.Sprintf("n%d", r.Intn(i)))
		}
		item.Edit("rotation").Links = []*scene.Link{follow("rig", "turn", r.Float64(), r.Float64())}
		if i > 0 {
			item.Edit("position").Links = []*scene.Link{follow(scene.ID(fmt.Sprintf("n%d", r.Intn(i))), "rotation", r.Float64(), 0)}
		}
		c.Items = append(c.Items, item)
	}
	return c
}

func TestPlayingScrubbingAndJumpingGiveTheSameBits(t *testing.T) {
	c := busy(3, 60)
	played := New(c)
	frames := make([][]float64, 300)
	for f := range frames {
		frames[f] = append([]float64(nil), played.Evaluate(float64(f))...)
	}
	for _, f := range rand.New(rand.NewSource(4)).Perm(300) {
		jumped := New(c)
		same(t, fmt.Sprintf("frame %d, jumped to", f), jumped.Evaluate(float64(f)), frames[f])
		same(t, fmt.Sprintf("frame %d, scrubbed to", f), played.Evaluate(float64(f)), frames[f])
	}
}

func same(t *testing.T, what string, got, want []float64) {
	t.Helper()
	for i := range want {
		if math.Float64bits(got[i]) != math.Float64bits(want[i]) {
			t.Fatalf("%s: slot %d is %v, want %v", what, i, got[i], want[i])
		}
	}
}

// The columns are held against the plain arithmetic of single wires.
func TestColumnsAgreeWithSingleWires(t *testing.T) {
	c := busy(5, 200)
	p := New(c)
	values := p.Evaluate(123)
	for _, one := range wire.Targets(p.Layout) {
		w := one.Wires[0]
		want := float64(values[w.Source]*w.Gain) + w.Offset
		if want-want != 0 {
			want = p.now.own[one.Slot]
		}
		if got := values[one.Slot]; got != one.Spec.Limit(want) {
			t.Fatalf("slot %d is %v, want %v", one.Slot, got, want)
		}
	}
}

func TestPatchIsTheSameAsANewPlan(t *testing.T) {
	c := busy(7, 40)
	p := New(c)
	r := rand.New(rand.NewSource(8))
	anew := 0
	for i := range 200 {
		item := c.Items[r.Intn(len(c.Items))]
		specs := item.Specs()
		spec := specs[r.Intn(len(specs))]
		if spec.Type == scene.Text {
			continue
		}
		value := spec.Default
		for k := range value.Len() {
			value = value.With(k, r.Float64()*100)
		}
		state := item.Edit(spec.Key)
		switch r.Intn(3) {
		case 0:
			state.Own = value
		case 1:
			state.Pins = []scene.Pin{{Frame: r.Intn(300), Value: value, Easing: curve.Smooth}, {Frame: 300 + r.Intn(9), Value: spec.Default, Easing: curve.Linear}}
		case 2:
			state.Pins = nil
		}
		patched := p.Patch(scene.Ref{Item: item.ID, Property: spec.Key})
		fresh := New(c)
		if !patched { // it had no slots of its own
			p, anew = fresh, anew+1
			continue
		}
		f := float64(r.Intn(300))
		same(t, fmt.Sprintf("after patch %d of %s", i, spec.Name), p.Evaluate(f), fresh.Evaluate(f))
	}
	if anew < 10 || anew > 100 {
		t.Errorf("%d of 200 properties were touched for the first time", anew)
	}
}

// What nobody touches stands once for all items of a kind: every property has the value that it has where each stands by itself.
func TestWhatNobodyTouchesStandsOnce(t *testing.T) {
	for seed := range int64(12) {
		c := busy(seed, 40)
		var all []scene.Ref
		for _, item := range c.Items {
			for _, spec := range item.Specs() {
				all = append(all, scene.Ref{Item: item.ID, Property: spec.Key})
			}
		}
		p, wide := New(c), New(c, all...)
		if 2*p.Layout.World > wide.Layout.World {
			t.Errorf("%d slots in place of %d", p.Layout.World, wide.Layout.World)
		}
		for _, f := range []float64{0, 17, 3, 211} {
			p.Evaluate(f)
			wide.Evaluate(f)
			for _, ref := range all {
				if got, want := p.Value(ref), wide.Value(ref); !reflect.DeepEqual(got, want) {
					t.Fatalf("seed %d, frame %g: %s of %s is %v, want %v", seed, f, ref.Property, ref.Item, got, want)
				}
			}
			for i := range c.Items {
				if got, want := p.World(int32(i)), wide.World(int32(i)); got != want {
					t.Fatalf("seed %d, frame %g: item %d stands at %v, want %v", seed, f, i, got, want)
				}
			}
		}
	}
}

func TestEvaluateAllocatesNothing(t *testing.T) {
	p := New(busy(9, 500))
	frame := 0.0
	if n := testing.AllocsPerRun(50, func() { frame++; p.Evaluate(frame) }); n != 0 {
		t.Errorf("%g allocations a frame", n)
	}
}

func TestACycleIsCheckedAndTheRestGoesOn(t *testing.T) {
	c := rig()
	c.Items[1].Edit("opacity").Links = []*scene.Link{follow("ball", "opacity", 1, 0)}
	c.Items[2].Edit("opacity").Links = []*scene.Link{follow("box", "opacity", 1, 0)}
	c.Items[3].Edit("rotation").Links = []*scene.Link{follow("rig", "amount", 1, 0)}
	p := New(c)
	if p.Cycle == nil || len(p.Cycle.Refs) != 2 {
		t.Fatalf("the circle is %v", p.Cycle)
	}
	p.Evaluate(0)
	if got := p.Value(ref("word", "rotation")).String(); got != "40" {
		t.Errorf("outside of the circle, rotation is %s", got)
	}
}

func TestTrackerReportsOnlyOutlinesThatChanged(t *testing.T) {
	c := rig()
	c.Items[2].Edit("size").Links = []*scene.Link{follow("rig", "amount", 1, 0)}
	c.Items[0].Edit("amount").Pins = []scene.Pin{{Frame: 0, Value: scene.Num(0), Easing: curve.Linear}, {Frame: 10, Value: scene.Num(50), Easing: curve.Linear}}
	p := New(c)
	var tracker Tracker
	report := func() (ids string) {
		tracker.Changed(p, func(i int32, _ Changes) { ids += string(p.Layout.Items[i].ID) + " " })
		return
	}
	p.Evaluate(0)
	if got := report(); got != "box ball word copy " {
		t.Errorf("at first: %s", got)
	}
	p.Evaluate(5)
	if got := report(); got != "ball " {
		t.Errorf("when one grew: %s", got)
	}
	c.Items[1].Edit("rotation").Own = scene.Num(3)
	p = New(c)
	p.Evaluate(5)
	if got := report(); got != "" {
		t.Errorf("after a new plan of the same shapes: %s", got)
	}
	// What changes otherwise than from frame to frame: a value, a pose and its end, links, pins.
	for _, k := range []struct {
		what, want string
		do         func()
	}{
		{"an own value", "box ", func() {
			c.Items[1].Edit("size").Own = scene.Pt(7, 7)
			p.Patch(scene.Ref{Item: c.Items[1].ID, Property: "size"})
		}},
		{"nothing", "", func() {}},
		{"a pose", "ball ", func() { p.Pose(scene.Ref{Item: "ball", Property: "size"}, scene.Pt(1, 2)) }},
		{"its end", "ball ", func() { p.Pose(scene.Ref{Item: "ball", Property: "size"}, scene.Value{}) }},
		{"no link any more", "ball ", func() {
			c.Items[2].State("size").Links = nil
			p.Relink([]scene.Ref{{Item: "ball", Property: "size"}})
		}},
		{"pins", "box ", func() {
			c.Items[1].Edit("size").Pins = []scene.Pin{{Frame: 0, Value: scene.Pt(1, 1), Easing: curve.Linear}, {Frame: 10, Value: scene.Pt(9, 9), Easing: curve.Linear}}
			p.Patch(scene.Ref{Item: c.Items[1].ID, Property: "size"})
		}},
		{"another frame", "box ", func() { p.Evaluate(6) }},
	} {
		k.do()
		p.Evaluate(p.Frame())
		if got := report(); got != k.want {
			t.Errorf("after %s: %q, want %q", k.what, got, k.want)
		}
	}
}

// ---- benchmarks: each against a hand-written loop in the same run

// followers is n items whose rotation follows one pinned control.
func followers(n int) *scene.Composition {
	c := rig()
	c.Items[0].Edit("turn").Pins = []scene.Pin{{Frame: 0, Value: scene.Num(0), Easing: curve.Smooth}, {Frame: 299, Value: scene.Num(90), Easing: curve.Smooth}}
	for i := range n {
		item := &scene.Item{ID: scene.ID(fmt.Sprintf("n%d", i)), Name: "Item", Kind: scene.Rectangle}
		item.Edit("opacity").Links = []*scene.Link{follow("rig", "turn", 0.5+float64(i%10)/10, float64(i%7))}
		c.Items = append(c.Items, item)
	}
	return c
}

func BenchmarkFollow(b *testing.B) {
	for _, n := range []int{1000, 10000} {
		p := New(followers(n))
		var r rival
		b.Run(fmt.Sprintf("columns/%d", n), func(b *testing.B) {
			played(b, p)
			b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(b.N)/float64(n), "ns/property")
			r.note(b)
		})
		b.Run(fmt.Sprintf("hand-written/%d", n), func(b *testing.B) {
			// What somebody would write who knew that each opacity follows one turn.
			type opacity struct{ gain, offset, value float64 }
			items := make([]opacity, n)
			for i := range items {
				items[i] = opacity{gain: 0.5 + float64(i%10)/10, offset: float64(i % 7)}
			}
			track := curve.New([]float64{0, 299}, []float64{0, 90}, []curve.Easing{curve.Smooth, curve.Smooth})
			frame := 0.0
			for b.Loop() {
				frame = math.Mod(frame+1, 300)
				turn := track.At(frame)
				for i := range items {
					v := turn*items[i].gain + items[i].offset
					if v < 0 {
						v = 0
					}
					if v > 100 {
						v = 100
					}
					items[i].value = v
				}
			}
			b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(b.N)/float64(n), "ns/property")
			r.compare(b)
		})
	}
}

func BenchmarkStructure(b *testing.B) {
	c := followers(10000)
	b.Run("plan/10000", func(b *testing.B) {
		for b.Loop() {
			p := New(c)
			p.Evaluate(0)
		}
	})
	b.Run("a link added and removed/10000", func(b *testing.B) {
		p, item := New(c), c.Items[5000]
		at := []scene.Ref{{Item: item.ID, Property: "rotation"}}
		for b.Loop() {
			item.Edit("rotation").Links = []*scene.Link{follow("rig", "turn", 1, 0)}
			if _, ok := p.Relink(at); !ok {
				b.Fatal("planned anew")
			}
			item.State("rotation").Links = nil
			p.Relink(at)
			p.Evaluate(0)
		}
	})
	b.Run("a formula changed and changed back/10000", func(b *testing.B) {
		p, item := New(c), c.Items[5000]
		at := []scene.Ref{{Item: item.ID, Property: "rotation"}}
		item.Edit("rotation").Links = []*scene.Link{{ID: "f", Kind: scene.Formula, Gain: 1}}
		for b.Loop() {
			for _, text := range []string{"{@rig:@turn} * 2 + index", "delay({@rig:@turn}, 3f)"} {
				item.State("rotation").Links[0].Formula = text
				if _, ok := p.Relink(at); !ok {
					p = New(c) // too much is left over
				}
			}
			p.Evaluate(0)
		}
		item.State("rotation").Links = nil
	})
	b.Run("layout/10000", func(b *testing.B) {
		for b.Loop() {
			layout.Of(c)
		}
	})
}
