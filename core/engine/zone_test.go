package engine

import (
	"fmt"
	"math"
	"testing"
	"time"

	"wunderkammer/core/formula"
	"wunderkammer/core/layout"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// swept is n flags along x, 50 apart, and a zone named Sweep in the middle of the first, of a radius of 100 with a falloff of 50.
func swept(n int, alter func(zone *scene.Item)) *scene.Composition {
	c := flags(n)
	for k, item := range c.Items[1:] {
		item.Edit("position").Own = scene.Pt(50*float64(k), 0, 0)
	}
	zone := &scene.Item{ID: "zone", Name: "Sweep", Kind: scene.Zone}
	zone.Edit("zoneSize").Own, zone.Edit("falloff").Own, zone.Edit("zoneCurve").Own = scene.Pt(200, 100, 300), scene.Num(50), scene.Num(0)
	if alter != nil {
		alter(zone)
	}
	c.Items = append(c.Items, zone)
	return c
}

func TestZonesGiveTheirStrength(t *testing.T) {
	root := math.Sqrt(75*75 + 25*25)
	for name, k := range map[string]struct {
		alter func(zone *scene.Item)
		text  string
		at    [3]float64
		want  float64
	}{
		"the middle":          {nil, "", [3]float64{}, 1},
		"half of the falloff": {nil, "", [3]float64{75, 0, 0}, 0.5},
		"the edge":            {nil, "", [3]float64{100, 0, 0}, 0},
		"outside":             {nil, "", [3]float64{900, 0, 0}, 0},
		"aside":               {nil, "", [3]float64{75, 25, 0}, (100 - root) / 50},
		"flat, ahead":         {nil, "", [3]float64{75, 0, 500}, 0.5},
		"in space, ahead":     {func(z *scene.Item) { z.Edit("flat").Own = scene.Num(0) }, "", [3]float64{0, 0, 80}, 0.4},
		"a box":               {func(z *scene.Item) { z.Edit("zoneShape").Own = scene.Num(1) }, "", [3]float64{0, 40, 0}, 0.2},
		"a box in space":      {func(z *scene.Item) { z.Edit("zoneShape").Own, z.Edit("flat").Own = scene.Num(1), scene.Num(0) }, "", [3]float64{0, 0, 140}, 0.2},
		"a band":              {func(z *scene.Item) { z.Edit("zoneShape").Own = scene.Num(2) }, "", [3]float64{90, 9000, 0}, 0.2},
		"a half-plane":        {func(z *scene.Item) { z.Edit("zoneShape").Own = scene.Num(3) }, "", [3]float64{-25, 77, 0}, 0.5},
		"beyond a half-plane": {func(z *scene.Item) { z.Edit("zoneShape").Own = scene.Num(3) }, "", [3]float64{5, 77, 0}, 0},
		"ease in":             {func(z *scene.Item) { z.Edit("zoneCurve").Own = scene.Num(1) }, "", [3]float64{75, 0, 0}, 0.25},
		"ease out":            {func(z *scene.Item) { z.Edit("zoneCurve").Own = scene.Num(2) }, "", [3]float64{75, 0, 0}, 0.75},
		"free": {func(z *scene.Item) {
			z.Edit("zoneCurve").Own, z.Edit("curveBegin").Own, z.Edit("curveEnd").Own = scene.Num(4), scene.Num(50), scene.Num(80)
		}, "", [3]float64{75, 0, 0}, 0.6125},
		"ease in and out":     {func(z *scene.Item) { z.Edit("zoneCurve").Own = scene.Num(3) }, "", [3]float64{87.5, 0, 0}, 0.15625},
		"inverted":            {func(z *scene.Item) { z.Edit("inverted").Own = scene.On(true) }, "", [3]float64{90, 0, 0}, 0.8},
		"no falloff, inside":  {func(z *scene.Item) { z.Edit("falloff").Own = scene.Num(0) }, "", [3]float64{99, 0, 0}, 1},
		"no falloff, outside": {func(z *scene.Item) { z.Edit("falloff").Own = scene.Num(0) }, "", [3]float64{101, 0, 0}, 0},
		"no size":             {func(z *scene.Item) { z.Edit("zoneSize").Own = scene.Pt(0, 0, 0) }, "", [3]float64{1, 0, 0}, 0},
		"turned and scaled": {func(z *scene.Item) {
			z.Edit("rotation").Own, z.Edit("scale").Own, z.Edit("zoneShape").Own = scene.Num(90), scene.Pt(200, 100, 100), scene.Num(2)
		}, "", [3]float64{7000, 150, 0}, 0.5},
		"about its pivot":     {func(z *scene.Item) { z.Edit("pivot").Own = scene.Pt(10, 0, 0) }, "", [3]float64{75, 0, 0}, 0.5},
		"at a given place":    {nil, "zone({Sweep}, [75, 0])", [3]float64{900, 0, 0}, 0.5},
		"at what it moves to": {nil, "zone({Sweep}, {self: world.position})", [3]float64{75, 0, 0}, 0.5},
		"as it was some time ago": {func(z *scene.Item) {
			z.Edit("position").Pins = []scene.Pin{{Frame: -10, Value: scene.Pt(0, 0, 0), Easing: "hold"}, {Frame: 0, Value: scene.Pt(5000, 0, 0), Easing: "hold"}}
		}, "delay(zone({Sweep}), 5f)", [3]float64{75, 0, 0}, 0.5},
	} {
		c := swept(1, k.alter)
		c.Items[1].Edit("position").Own = scene.Pt(k.at[:]...)
		if k.text == "" {
			k.text = "zone({Sweep})"
		}
		written(t, c, scene.Ref{Item: "i0", Property: "opacity"}, k.text)
		p := New(c)
		p.Evaluate(0)
		if got := p.Value(scene.Ref{Item: "i0", Property: "opacity"}).At(0); math.Abs(got-k.want) > 1e-12 {
			t.Errorf("%s: %v, want %v", name, got, k.want)
		}
	}
}

// The place before the links counts, so that a zone can move what it holds; parents count, the zone's own and the item's.
func TestAZoneMovesWhatItHolds(t *testing.T) {
	c := swept(3, nil)
	for _, item := range c.Items[1:4] {
		item.Parent = "rig"
	}
	s := &scene.RosterLink{ID: "s", Name: "Row", Roster: scene.Roster{Kind: scene.Children, Item: "rig"}, Property: "position", Link: &scene.Link{ID: "l", Kind: scene.Formula, Gain: 1}}
	s.Link.Formula = formula.Compile("mix([0, 300, 0], own, zone({Sweep}))", wire.RosterScope(layout.Of(c), s, -1)).Bound
	c.RosterLinks = append(c.RosterLinks, s)
	c.Items[0].Edit("position").Own = scene.Pt(0, -30, 0) // what the flags hang on
	carrier := &scene.Item{ID: "carrier", Name: "Carrier", Kind: scene.Null}
	carrier.Edit("position").Own = scene.Pt(0, -30, 0)
	c.Items = append(c.Items, carrier)
	c.Items[4].Parent = "carrier"
	p := New(c)
	p.Evaluate(0)
	for k, want := range []scene.Value{scene.Pt(0, 0, 0), scene.Pt(50, 0, 0), scene.Pt(0, 300, 0)} {
		if got := p.Value(scene.Ref{Item: scene.ID(fmt.Sprint("i", k)), Property: "position"}); !close3(got, want.Nums()...) {
			t.Errorf("flag %d stands at %v, want %v", k, got, want)
		}
	}
	// Hung on what it moves, it would be driven by itself.
	c.Items[4].Parent = "i0"
	if p = New(c); p.Cycle == nil {
		t.Error("a zone that hangs on what it moves is a loop")
	}
	for text, says := range map[string]string{
		"zone({Flag 1})": "not a zone", "zone({Sweep: falloff})": "without a property", "zone(3)": "its name in braces", "zone({Sweep}, 5)": "needs a point",
	} {
		l := layout.Of(c)
		compiled := formula.Compile(text, wire.ScopeOf(l, 1, l.Items[1].Spec("rotation"), ""))
		if errs := compiled.Errors(); len(errs) == 0 || !contains(errs[0].Sentence, says) {
			t.Errorf("%s: %v, want %q", text, errs, says)
		}
	}
}

func contains(s, part string) bool {
	for k := range s {
		if len(s)-k >= len(part) && s[k:k+len(part)] == part {
			return true
		}
	}
	return false
}

// A thousand members under three zones cost a few times what a plain formula costs, and not a transform for each of them.
func TestZonesOverAThousandMembers(t *testing.T) {
	took := func(text string) time.Duration {
		c := swept(1000, nil)
		for k := range 2 {
			zone := c.Items[len(c.Items)-1-k].Clone()
			zone.ID, zone.Name = scene.ID(fmt.Sprint("zone", k)), fmt.Sprint("Zone ", k)
			c.Items = append(c.Items, zone)
		}
		rostered(t, c, text)
		p := New(c)
		best := time.Hour
		for f := range 40 {
			start := time.Now()
			p.Evaluate(float64(f))
			best = min(best, time.Since(start))
		}
		return best
	}
	plain := took("noise(time, index) * 20 + {Rig: Amount}")
	zones := took("noise(time, index) * 20 + {Rig: Amount} * zone({Sweep}) * zone({Zone 0}) * zone({Zone 1})")
	t.Logf("plain %v, under three zones %v: %.1f times", plain, zones, float64(zones)/float64(plain))
	if zones > 8*plain {
		t.Errorf("under three zones it takes %v, and plain %v", zones, plain)
	}
}

// Along a path that is scaled unevenly the speed is the same everywhere, as it is seen.
func TestTheWayAlongAScaledPathIsMeasuredAsItIsSeen(t *testing.T) {
	c := scene.NewComposition("main", "Main")
	path := &scene.Item{ID: "path", Name: "Path", Kind: scene.PathItem, Path: &scene.PathShape{Contours: []scene.Contour{{Vertices: []scene.Vertex{{ID: 1}, {ID: 2, At: [2]float64{100, 0}}, {ID: 3, At: [2]float64{100, 100}}}}}}}
	path.Edit("scale").Own = scene.Pt(300, 50, 100)
	box := &scene.Item{ID: "box", Name: "Box", Kind: scene.Rectangle}
	box.Edit("position").Links = []*scene.Link{{ID: "l", Kind: scene.Formula, Gain: 1, Formula: "along({@path}, 0.3)"}}
	c.Items = []*scene.Item{path, box}
	p := New(c)
	p.Evaluate(0)
	// Of 300 and 50 pixels, three tenths are 105.
	if at := p.Value(scene.Ref{Item: "box", Property: "position"}); math.Abs(at.At(0)-105) > 1e-9 || math.Abs(at.At(1)) > 1e-9 {
		t.Errorf("it is at %v", at)
	}
}
