package engine

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"wunderkammer/core/formula"
	"wunderkammer/core/layout"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// rostered puts a formula on the rotation of what hangs on the rig.
func rostered(t testing.TB, c *scene.Composition, text string, alter ...func(*scene.RosterLink)) {
	t.Helper()
	for _, item := range c.Items[1:] {
		if item.Kind == scene.Rectangle {
			item.Parent = "rig"
		}
	}
	s := &scene.RosterLink{ID: scene.ID(fmt.Sprint("s", len(c.RosterLinks))), Name: "Row", Roster: scene.Roster{Kind: scene.Children, Item: "rig"}, Property: "rotation", Link: &scene.Link{ID: "l", Kind: scene.Formula, Gain: 1}}
	compiled := formula.Compile(text, wire.RosterScope(layout.Of(c), s, -1))
	if errs := compiled.Errors(); len(errs) > 0 {
		t.Fatalf("%s: %s", text, errs[0].Sentence)
	}
	s.Link.Formula = compiled.Bound
	for _, f := range alter {
		f(s)
	}
	c.RosterLinks = append(c.RosterLinks, s)
}

// turns returns the rotations of all rectangles at a frame.
func turns(c *scene.Composition, frame float64) []float64 {
	p := New(c)
	p.Evaluate(frame)
	var out []float64
	for _, item := range c.Items {
		if item.Kind == scene.Rectangle {
			out = append(out, p.Value(scene.Ref{Item: item.ID, Property: "rotation"}).At(0))
		}
	}
	return out
}

func TestOneLinkDrivesARoster(t *testing.T) {
	for _, c := range []struct {
		text  string
		alter func(*scene.RosterLink)
		want  []float64
	}{
		{"index * 10 + number + count", nil, []float64{5, 16, 27, 38}},
		{"share * 90", nil, []float64{0, 30, 60, 90}},
		{"{prev: rotation} + 5", nil, []float64{0, 5, 10, 15}},
		{"({prev: rotation} else 40) + 5", nil, []float64{45, 50, 55, 60}},
		{"{next: opacity} else 7", nil, []float64{100, 100, 100, 7}},
		{"{prev 2: opacity} else 7", nil, []float64{7, 7, 100, 100}},
		{"{first: opacity} - {last: opacity} + {parent: Amount}", nil, []float64{50, 50, 50, 50}},
		{"delay({Rig: Amount}, index * 10f)", nil, []float64{50, 40, 30, 20}},
		{"if(index = 0, {Rig: Amount}, delay({prev: rotation}, {Rig: Lag}))", nil, []float64{50, 45, 40, 35}},
		{"10", func(s *scene.RosterLink) { s.Out = []scene.ID{"i1"} }, []float64{10, 0, 10, 10}},
		{"index", func(s *scene.RosterLink) { s.Roster = scene.Roster{Kind: scene.Picked, Items: []scene.ID{"i3", "i1"}} }, []float64{0, 1, 0, 0}},
		{"number", func(s *scene.RosterLink) { s.Roster = scene.Roster{Kind: scene.Named, Pattern: "*AG ?"} }, []float64{1, 2, 3, 4}},
		{"10", func(s *scene.RosterLink) { s.Link.Stagger = &scene.Stagger{Offset: 3} }, []float64{10, 13, 16, 19}},
		{"10", func(s *scene.RosterLink) { s.Link.Stagger = &scene.Stagger{Offset: 3, By: scene.FromOne} }, []float64{13, 16, 19, 22}},
		{"10", func(s *scene.RosterLink) { s.Link.Stagger = &scene.Stagger{Offset: 9, By: scene.AsShare} }, []float64{10, 13, 16, 19}},
		{"10", func(s *scene.RosterLink) { s.Link.Stagger = &scene.Stagger{Gain: 1} }, []float64{10, 20, 30, 40}},
		{"{Rig: Amount}", func(s *scene.RosterLink) { s.Link.Stagger = &scene.Stagger{Delay: 4} }, []float64{50, 46, 42, 38}},
		{"{Rig: Amount}", func(s *scene.RosterLink) { half := 50.0; s.Weight = &half }, []float64{25, 25, 25, 25}},
		{"10", func(s *scene.RosterLink) {
			s.Link = &scene.Link{ID: "l", Kind: scene.Follow, Source: scene.Ref{Item: "rig", Property: "amount"}, Gain: 1, Stagger: &scene.Stagger{Delay: 2, Offset: 1}}
		}, []float64{50, 49, 48, 47}},
	} {
		comp := flags(4)
		rostered(t, comp, c.text, func(s *scene.RosterLink) {
			if c.alter != nil {
				c.alter(s)
			}
		})
		if got := turns(comp, 50); !slices.Equal(got, c.want) {
			t.Errorf("%s: %v, want %v", c.text, got, c.want)
		}
	}
	// Shuffled, each place is taken once.
	comp := flags(6)
	rostered(t, comp, "0", func(s *scene.RosterLink) { s.Link.Stagger = &scene.Stagger{Offset: 1, Seed: 4} })
	got := turns(comp, 0)
	sorted := slices.Sorted(slices.Values(got))
	if !slices.Equal(sorted, []float64{0, 1, 2, 3, 4, 5}) || slices.Equal(got, sorted) {
		t.Errorf("shuffled: %v", got)
	}
}

func TestRostersArePairedByTheirPlaces(t *testing.T) {
	c := flags(3)
	for i := range 2 {
		item := &scene.Item{ID: scene.ID(fmt.Sprint("p", i)), Name: fmt.Sprint("Post ", i), Kind: scene.Ellipse}
		item.Edit("opacity").Own = scene.Num(float64(10 * (i + 1)))
		item.Edit("position").Own = scene.Pt(float64(i+1), 0, 0)
		c.Items = append(c.Items, item)
	}
	for _, item := range c.Items[1:4] {
		item.Parent = "rig"
	}
	s := &scene.RosterLink{ID: "s", Name: "Row", Roster: scene.Roster{Kind: scene.Children, Item: "rig"}, Pair: &scene.Roster{Kind: scene.Named, Pattern: "post *"}, Property: "rotation", Link: &scene.Link{ID: "l", Kind: scene.Formula, Gain: 1}}
	s.Link.Formula = formula.Compile("({partner: opacity} else 7) + ({partner: world.position.x} else 0)", wire.RosterScope(layout.Of(c), s, 0)).Bound
	c.RosterLinks = []*scene.RosterLink{s}
	if got := turns(c, 0); !slices.Equal(got, []float64{11, 22, 7}) {
		t.Errorf("%v", got)
	}
}

func TestWhatIsPutIntoARosterIsInAtOnce(t *testing.T) {
	c := flags(3)
	rostered(t, c, "if(index = 0, {Rig: Amount}, delay({prev: rotation}, {Rig: Lag}))")
	c.Items = slices.Insert(c.Items, 2, &scene.Item{ID: "new", Name: "Flag", Kind: scene.Rectangle, Parent: "rig"})
	if got := turns(c, 50); !slices.Equal(got, []float64{50, 45, 40, 35}) {
		t.Errorf("%v", got)
	}
	// A link of its own stands above that of the roster.
	written(t, c, scene.Ref{Item: "new", Property: "rotation"}, "below / 2")
	if got := turns(c, 50); !slices.Equal(got, []float64{50, 22.5, 17.5, 12.5}[:1:1]) && got[1] != 22.5 {
		t.Errorf("%v", got)
	}
}

func TestTrailingIsTheSamePlayedAndJumpedTo(t *testing.T) {
	c := flags(40)
	rostered(t, c, "if(index = 0, {Rig: Amount} + noise(time), delay({prev: rotation}, {Rig: Lag}) * 0.99)")
	played := New(c)
	var last []float64
	for f := range 120 {
		last = slices.Clone(played.Evaluate(float64(f)))
	}
	jumped := New(c)
	jumped.Evaluate(7)
	if !slices.Equal(jumped.Evaluate(119), last) {
		t.Error("jumped to, frame 119 differs")
	}
	// The last has come 39 times 5 frames late.
	_, slot := jumped.Layout.Find("i39", "rotation")
	if v := jumped.Evaluate(300)[slot]; math.Abs(v) < 1 {
		t.Errorf("it trails at %v", v)
	}
}

func BenchmarkRoster(b *testing.B) {
	c := flags(10000)
	rostered(b, c, "noise(time * 0.6, index) * {Rig: Amount} + wave(time * 0.3 - share) * 0.4")
	b.Run("plan/10000", func(b *testing.B) {
		for b.Loop() {
			New(c)
		}
	})
	p := New(c)
	var r rival
	b.Run("frame/10000", func(b *testing.B) {
		played(b, p)
		b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(b.N)/10000, "ns/member")
		r.note(b)
	})
	b.Run("frame by hand/10000", func(b *testing.B) {
		// What somebody would write who knew that all of them turn, and hang on one parent that stands still.
		type member struct{ position, scale, pivot [3]float64 }
		members, worlds := make([]member, 10000), make([]num.Affine, 10000)
		for i := range members {
			members[i] = member{[3]float64{float64(i), 0, 0}, [3]float64{100, 100, 100}, [3]float64{}}
		}
		parent := num.Place([3]float64{}, [3]float64{}, [3]float64{100, 100, 100}, [3]float64{})
		frame := 0.0
		for b.Loop() {
			frame = math.Mod(frame+1, 300)
			time, amount := frame/25, min(frame, 100)
			for i := range members {
				s, _ := num.SinCos(360 * fract(time*0.3-float64(i)/9999))
				m := &members[i]
				own := num.Place(m.position, [3]float64{0, 0, handNoise(time*0.6, float64(i))*amount + s*0.4}, m.scale, m.pivot)
				worlds[i] = parent.Mul(&own)
			}
		}
		b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(b.N)/10000, "ns/member")
		r.compare(b)
	})
	for _, n := range []int{100, 1000, 10000} {
		trail, free := flags(n), flags(n)
		rostered(b, trail, "if(index = 0, {Rig: Amount}, delay({prev: rotation}, {Rig: Lag}))")
		rostered(b, free, "if(index = 0, {Rig: Amount}, {Rig: Amount} - index)")
		for name, c := range map[string]*scene.Composition{"trailing": trail, "untrailed": free} {
			b.Run(fmt.Sprintf("%s, next frame/%d", name, n), func(b *testing.B) {
				p, frame := New(c), 0.0
				for ; frame < 10; frame++ {
					p.Evaluate(frame)
				}
				for b.Loop() {
					frame++
					p.Evaluate(frame)
				}
			})
		}
		b.Run(fmt.Sprintf("trailing, jump/%d", n), func(b *testing.B) {
			p, frame := New(trail), 0.0
			p.Evaluate(frame)
			for b.Loop() { // to where nothing near was looked at
				frame = math.Mod(frame+100003, 1e6)
				p.Evaluate(frame)
			}
		})
	}
}
