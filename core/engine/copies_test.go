package engine

import (
	"fmt"
	"math"
	"slices"
	"testing"
	"time"
	"wunderkammer/core/curve"

	"wunderkammer/core/formula"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// copiesOf is a composition with copies of a shape that turns, and of another that hangs on that.
func copiesOf(limit int) (*scene.Composition, *scene.Item) {
	c := scene.NewComposition("main", "C")
	c.Frames = 200
	beads := &scene.Item{ID: "beads", Name: "Beads", Kind: scene.CopiesItem, Copies: &scene.CopiesShape{Limit: limit}}
	beads.Edit("position").Own = scene.Pt(40, -20, 0)
	beads.Edit("rotation").Own = scene.Num(15)
	bead := &scene.Item{ID: "bead", Name: "Bead", Kind: scene.Ellipse, Parent: "beads"}
	bead.Edit("rotation").Pins = []scene.Pin{{Frame: 0, Value: scene.Num(0), Easing: curve.Linear}, {Frame: 100, Value: scene.Num(300), Easing: curve.Linear}}
	bead.Edit("opacity").Pins = []scene.Pin{{Frame: 0, Value: scene.Num(10), Easing: curve.Linear}, {Frame: 100, Value: scene.Num(90), Easing: curve.Linear}}
	tail := &scene.Item{ID: "tail", Name: "Tail", Kind: scene.Rectangle, Parent: "bead"}
	tail.Edit("position").Own = scene.Pt(30, 0, 0)
	c.Items = []*scene.Item{tail, bead, beads}
	return c, beads
}

func driveCopies(c *scene.Composition, property, text string) {
	c.RosterLinks = append(c.RosterLinks, &scene.RosterLink{
		ID: scene.ID(fmt.Sprintf("row%d", len(c.RosterLinks))), Name: property, Roster: scene.Roster{Kind: scene.CopiesOf, Item: "beads"}, Property: property,
		Link: &scene.Link{ID: scene.ID(fmt.Sprintf("link%d", len(c.RosterLinks))), Kind: scene.Formula, Gain: 1, Formula: text},
	})
}

type seenCopy struct {
	item    string
	opacity float64
	own     float64
	at      num.Affine
}

func seen(p *Plan, id scene.ID) (out []seenCopy) {
	p.Copies(p.Layout.Index(id), func(c *Copied) {
		item := p.Layout.Items[c.Item]
		out = append(out, seenCopy{item.Name, c.Opacity, p.Value(scene.Ref{Item: item.ID, Property: "opacity"}).At(0), p.World(c.Item)})
	})
	return out
}

func TestCopiesStandAsTheyAreArranged(t *testing.T) {
	for arrangement, want := range map[string][][2]float64{
		"line": {{0, 0}, {120, 0}, {240, 0}, {360, 0}},
		"grid": {{0, 0}, {120, 0}, {0, -120}, {120, -120}},
		"ring": {{0, 300}, {300, 0}, {0, -300}, {-300, 0}},
	} {
		c, beads := copiesOf(10)
		beads.States = nil
		beads.Edit("copiesNumber").Own = scene.Num(4)
		beads.Edit("copiesColumns").Own = scene.Num(2)
		for k, name := range scene.Arrangements {
			if name == arrangement {
				beads.Edit("copiesArrangement").Own = scene.Num(float64(k))
			}
		}
		p := New(c)
		p.Evaluate(0)
		var got [][2]float64
		for _, s := range seen(p, "beads") {
			if s.item == "Bead" {
				got = append(got, [2]float64{s.at[3], s.at[7]})
			}
		}
		if len(got) != len(want) {
			t.Fatalf("%s shows %d copies", arrangement, len(got))
		}
		for k := range want {
			if math.Hypot(got[k][0]-want[k][0], got[k][1]-want[k][1]) > 1e-9 {
				t.Errorf("%s: copy %d stands at %v", arrangement, k+1, got[k])
			}
		}
	}
}

func TestLateCopiesShowTheirChildrenAsTheyWere(t *testing.T) {
	c, beads := copiesOf(10)
	beads.Edit("copiesNumber").Own = scene.Num(5)
	driveCopies(c, "copyLate", "index * 7f")
	p := New(c)
	for _, frame := range []float64{80, 81, 3, 60.5} {
		p.Evaluate(frame)
		before := append([]float64(nil), p.now.values...)
		got := seen(p, "beads")
		if len(got) != 10 {
			t.Fatalf("%d items are shown", len(got))
		}
		for n, s := range got {
			alone, _ := copiesOf(10)
			then := New(alone)
			then.Evaluate(frame - float64(n/2*7))
			if want := then.Value(scene.Ref{Item: scene.ID(map[string]string{"Bead": "bead", "Tail": "tail"}[s.item]), Property: "opacity"}).At(0); s.own != want {
				t.Errorf("frame %v: %s of copy %d has an opacity of %v, not %v", frame, s.item, n/2+1, s.own, want)
			}
		}
		for s, v := range before {
			if v != p.now.values[s] && v == v {
				t.Fatalf("slot %d was %v and is %v afterwards", s, v, p.now.values[s])
			}
		}
	}
}

func TestCopiesStandAlongAPathWhereverTheyHang(t *testing.T) {
	for _, closed := range []bool{false, true} {
		c, beads := copiesOf(10)
		path := &scene.Item{ID: "path", Name: "Path", Kind: scene.PathItem, Path: &scene.PathShape{Contours: []scene.Contour{{Closed: closed, Vertices: []scene.Vertex{
			{ID: 1}, {ID: 2, At: [2]float64{300, 0}}, {ID: 3, At: [2]float64{300, 300}}, {ID: 4, At: [2]float64{0, 300}},
		}}}}}
		path.Edit("position").Own = scene.Pt(-50, 20, 0)
		c.Items = append(c.Items, path)
		beads.Copies.Along = "path"
		beads.Edit("copiesArrangement").Own, beads.Edit("copiesNumber").Own, beads.Edit("scale").Own = scene.Num(3), scene.Num(4), scene.Pt(50, 200, 100)
		for _, s := range c.Wiring() {
			if compiled := formula.Compile(s.Link.Formula, wire.RosterScope(New(c).Layout, s, 0)); len(compiled.Errors()) > 0 {
				t.Fatalf("%s: %s", s.Property, compiled.Errors()[0].Sentence)
			}
		}
		p := New(c)
		p.Evaluate(0)
		var got [][3]float64
		for _, s := range seen(p, "beads") {
			if s.item == "Bead" {
				got = append(got, [3]float64{math.Round(s.at[3]), math.Round(s.at[7]), math.Round(num.Atan2(s.at[4]/4, s.at[0]))})
			}
		}
		want := [][3]float64{{-50, 20}, {250, 20}, {250, 320}, {-50, 320}}
		if len(got) != len(want) {
			t.Fatalf("%d copies are shown", len(got))
		}
		for k := range want {
			if got[k][0] != want[k][0] || got[k][1] != want[k][1] {
				t.Errorf("closed %v: copy %d stands at %v", closed, k+1, got[k])
			}
		}
	}
}

func TestCopiesOfCopiesAreBounded(t *testing.T) {
	c, beads := copiesOf(5000)
	beads.Edit("copiesNumber").Own = scene.Num(1e9)
	inner := &scene.Item{ID: "inner", Name: "Inner", Kind: scene.CopiesItem, Parent: "beads", Copies: &scene.CopiesShape{Limit: 5000}}
	inner.Edit("copiesNumber").Own = scene.Num(5000)
	c.Item("bead").Parent = "inner"
	c.Items = append(c.Items, inner)
	p := New(c)
	p.Evaluate(0)
	if n := len(seen(p, "beads")); n != scene.MaxCopied {
		t.Errorf("%d items are shown", n)
	}
	c.RosterLinks = append(c.RosterLinks, &scene.RosterLink{
		ID: "dim", Name: "dim", Roster: scene.Roster{Kind: scene.CopiesOf, Item: "inner"}, Property: "opacity",
		Link: &scene.Link{ID: "diml", Kind: scene.Formula, Gain: 1, Formula: "0"},
	})
	p = New(c)
	p.Evaluate(0)
	began := time.Now()
	if n := len(seen(p, "beads")); n != 0 || time.Since(began) > 5*time.Second {
		t.Errorf("%d items that cannot be seen are shown, in %v", n, time.Since(began))
	}
}

// Near the number that is shown: share ends at 1, count is whole, and nothing stands behind the last one, whatever the limit.
func TestCopiesCountThoseThatAreShown(t *testing.T) {
	for _, shown := range []struct {
		number float64
		fades  bool
		count  float64
	}{{3.4, true, 4}, {3.4, false, 3}, {7, true, 7}, {0.2, true, 1}} {
		c := scene.NewComposition("main", "Main")
		beads := &scene.Item{ID: "beads", Name: "Beads", Kind: scene.CopiesItem, Copies: &scene.CopiesShape{Limit: 11}}
		beads.Edit("copiesNumber").Own = scene.Num(shown.number)
		beads.Edit("copiesFade").Own = scene.On(shown.fades)
		c.Items = []*scene.Item{beads}
		for property, text := range map[string]string{"rotation": "share * 90 + count", "opacity": "if(({next: rotation} else -1) < 0, 7, 31)"} {
			c.RosterLinks = append(c.RosterLinks, &scene.RosterLink{ID: scene.ID("r" + property[:2]), Name: "Row", Roster: scene.Roster{Kind: scene.CopiesOf, Item: "beads"}, Property: property,
				Link: &scene.Link{ID: scene.ID("l" + property[:2]), Kind: scene.Formula, Gain: 1, Formula: text}})
		}
		p := New(c)
		p.Evaluate(0)
		for n := range 11 {
			lane := scene.Ref{Item: scene.ID(fmt.Sprint("beads~", n+1)), Property: "rotation"}
			share := math.Min(1, float64(n)/math.Max(1, shown.count-1))
			if got, want := p.Value(lane).At(0), share*90+shown.count; math.Abs(got-want) > 1e-9 {
				t.Errorf("%+v: copy %d turns by %v, want %v", shown, n+1, got, want)
			}
			lane.Property = "opacity"
			want := 31.0
			if float64(n+1) >= shown.count {
				want = 7
			}
			if got := p.Value(lane).At(0); got != want {
				t.Errorf("%+v: copy %d is at %v, want %v", shown, n+1, got, want)
			}
		}
	}
}

// Stagger by share goes over the copies that are shown, as their number moves: offset, gain, delay and each component, of links of
// all kinds.
func TestCopiesAreStaggeredOverThoseThatAreShown(t *testing.T) {
	for what, k := range map[string]struct {
		link *scene.Link
		want func(share, x func(frame float64) float64, frame float64) float64
	}{
		"offset": {&scene.Link{Kind: scene.Follow, Gain: 2, Offset: 7, Stagger: &scene.Stagger{By: scene.AsShare, Offset: 33, Gain: 0.5}}, func(share, x func(float64) float64, f float64) float64 {
			return x(f)*(2+0.5*share(f)) + 7 + 33*share(f)
		}},
		"delay": {&scene.Link{Kind: scene.Follow, Gain: 1, Delay: 3, Stagger: &scene.Stagger{By: scene.AsShare, Delay: 11}}, func(share, x func(float64) float64, f float64) float64 { return x(f - 3 - 11*share(f)) }},
		"map": {&scene.Link{Kind: scene.Map, Gain: 1, Stops: []scene.MapStop{{In: 0, Out: scene.Num(20), Easing: curve.Linear}, {In: 90, Out: scene.Num(200), Easing: curve.Linear}}, Stagger: &scene.Stagger{By: scene.AsShare, Offset: -13, Delay: 2}}, func(share, x func(float64) float64, f float64) float64 {
			return 20 + 2*max(0, x(f-2*share(f))) - 13*share(f)
		}},
		"formula": {&scene.Link{Kind: scene.Formula, Gain: 1, Formula: "a = {@knob:@rotation}\na - 4", Stagger: &scene.Stagger{By: scene.AsShare, Delay: 5, Offset: 17}}, func(share, x func(float64) float64, f float64) float64 {
			return x(f-5*share(f)) - 4 + 17*share(f)
		}},
	} {
		c, beads := copiesOf(10)
		beads.Edit("copiesNumber").Pins = []scene.Pin{{Frame: 0, Value: scene.Num(4), Easing: curve.Linear}, {Frame: 60, Value: scene.Num(7), Easing: curve.Linear}}
		knob := &scene.Item{ID: "knob", Name: "Knob", Kind: scene.Null}
		knob.Edit("rotation").Pins = []scene.Pin{{Frame: -40, Value: scene.Num(-40), Easing: curve.Linear}, {Frame: 80, Value: scene.Num(80), Easing: curve.Linear}}
		c.Items = append(c.Items, knob)
		k.link.ID = "l"
		if k.link.Kind != scene.Formula {
			k.link.Source = scene.Ref{Item: "knob", Property: "rotation"}
		}
		c.RosterLinks = append(c.RosterLinks, &scene.RosterLink{ID: "row", Name: "turn", Roster: scene.Roster{Kind: scene.CopiesOf, Item: "beads"}, Property: "rotation", Link: k.link})
		x := func(frame float64) float64 { return frame }
		p := New(c)
		for _, frame := range []float64{31, 0, 59, 60} {
			p.Evaluate(frame)
			shown := math.Floor(4 + 3*frame/60)
			for at := range int(shown) {
				share := func(float64) float64 { return float64(at) / (shown - 1) }
				if got, want := p.Value(scene.Ref{Item: scene.ID(fmt.Sprintf("beads~%d", at+1)), Property: "rotation"}).At(0), k.want(share, x, frame); math.Abs(got-want) > 1e-9 {
					t.Errorf("%s, frame %v: copy %d of %v is turned by %v, not by %v", what, frame, at+1, shown, got, want)
				}
			}
		}
	}
	// Of a place, by component.
	c, beads := copiesOf(10)
	beads.Edit("copiesNumber").Own = scene.Num(5)
	c.RosterLinks = append(c.RosterLinks, &scene.RosterLink{ID: "row", Name: "climb", Roster: scene.Roster{Kind: scene.CopiesOf, Item: "beads"}, Property: "position",
		Link: &scene.Link{ID: "l", Kind: scene.Formula, Gain: 1, Formula: "[3, 4, 5]", Stagger: &scene.Stagger{By: scene.AsShare, Offsets: scene.ByComponent{40, -80}}}})
	p := New(c)
	p.Evaluate(0)
	if got := p.Value(scene.Ref{Item: "beads~4", Property: "position"}); got != scene.Pt(33, -56, 5) {
		t.Errorf("the fourth of five stands at %v", got)
	}
}

// Copies that show a time of their own show all below them as it is then: held, run backwards, faster, late besides, in whatever order
// frames are visited; what looks at it otherwise sees it as it is now.
func TestCopiesShowATimeOfTheirOwn(t *testing.T) {
	c, beads := copiesOf(10)
	beads.Edit("copiesNumber").Own = scene.Num(3)
	beads.Edit(scene.CopiesShow).Own = scene.Num(scene.OwnTime)
	rate := float64(c.Rate)
	beads.Edit(scene.CopiesTime).Pins = []scene.Pin{ // backwards, then still
		{Frame: 0, Value: scene.Num(90 / rate), Easing: curve.Linear}, {Frame: 60, Value: scene.Num(30 / rate), Easing: curve.Hold}, {Frame: 100, Value: scene.Num(30 / rate), Easing: curve.Hold},
	}
	driveCopies(c, "copyLate", "index * 7f")
	witness := &scene.Item{ID: "witness", Name: "Witness", Kind: scene.Star}
	witness.Edit("rotation").Links = []*scene.Link{{ID: "w", Kind: scene.Follow, Gain: 1, Source: scene.Ref{Item: "bead", Property: "rotation"}}}
	c.Items = append(c.Items, witness)
	p := New(c)
	want := func(frame float64, copy int) float64 { // opacity of a bead
		then := max(30, 90-frame) - float64(7*copy)
		return 10 + 0.8*max(0, then)
	}
	for _, frame := range []float64{40, 0, 71, 12.5, 95, 40} {
		p.Evaluate(frame)
		var got []float64
		for _, s := range seen(p, "beads") {
			if s.item == "Bead" {
				got = append(got, s.own)
			}
		}
		if len(got) != 3 {
			t.Fatalf("frame %v: %d beads", frame, len(got))
		}
		for k := range got {
			if math.Abs(got[k]-want(frame, k)) > 1e-9 {
				t.Errorf("frame %v: copy %d is at %v, want %v", frame, k+1, got[k], want(frame, k))
			}
		}
		if now := p.Value(scene.Ref{Item: "witness", Property: "rotation"}).At(0); math.Abs(now-3*frame) > 1e-9 {
			t.Errorf("frame %v: what follows it is at %v", frame, now)
		}
	}
	// Turned off, and on again, by setting the property alone; and driven far away, where it is held.
	set := func(key string, v scene.Value) {
		beads.Edit(key).Own = v
		beads.Edit(key).Pins = nil
		p.Patch(scene.Ref{Item: beads.ID, Property: key})
		p.Evaluate(40)
	}
	set(scene.CopiesShow, scene.Num(0))
	if got := seen(p, "beads"); !slices.ContainsFunc(got, func(s seenCopy) bool { return s.item == "Bead" && math.Abs(s.own-42) < 1e-9 }) {
		t.Errorf("at the time of now: %v", got)
	}
	set(scene.CopiesShow, scene.Num(scene.OwnTime))
	set(scene.CopiesTime, scene.Num(1e9))
	for _, s := range seen(p, "beads") {
		if s.item == "Bead" && math.Abs(s.own-90) > 1e-9 {
			t.Errorf("far behind the end it is at %v", s.own)
		}
	}
}
