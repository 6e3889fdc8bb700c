package link

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"wunderkammer/core/scene"
)

func spec(t scene.Type, unit scene.Unit) *scene.Spec {
	return &scene.Spec{Name: string(t), Type: t, Unit: unit, Min: math.Inf(-1), Max: math.Inf(1)}
}

func TestFitOf(t *testing.T) {
	for _, c := range []struct {
		from     scene.Type
		fromPart string
		to       scene.Type
		toPart   string
		unit     scene.Unit
		want     string // parts and gain, or a piece of the error
	}{
		{scene.Number, "", scene.Number, "", "", "[0] 1"},
		{scene.Number, "", scene.Point3, "", "", "[0 0 0] 1"},
		{scene.Number, "", scene.Colour, "", "", "[0 0 0 0] 1"},
		{scene.Colour, "", scene.Colour, "", "", "[0 1 2 3] 1"},
		{scene.Point3, "", scene.Point2, "", "", "[0 1] 1"},
		{scene.Point2, "", scene.Point3, "", "", "[0 1 -1] 1"},
		{scene.Point3, "z", scene.Number, "", "", "[0] 1"},
		{scene.Number, "", scene.Point2, "y", "", "[0] 1"},
		{scene.Switch, "", scene.Number, "", scene.Percent, "[0] 100"},
		{scene.Text, "", scene.Text, "", "", "[0] 1"},
		{scene.Point3, "", scene.Number, "", "", "use one of its components: x, y, z"},
		{scene.Colour, "", scene.Number, "", "", "use one of its components: r, g, b, a"},
		{scene.Text, "", scene.Number, "", "", "can't drive"},
		{scene.Colour, "", scene.Point3, "", "", "can't drive"},
		{scene.Number, "x", scene.Number, "", "", "no component named"},
		{scene.Colour, "hue", scene.Number, "", "", "read it in a formula"},
	} {
		fit, err := FitOf(spec(c.from, ""), c.fromPart, spec(c.to, c.unit), c.toPart)
		got := fmt.Sprint(fit.Parts, " ", fit.Gain)
		if err != nil {
			got = err.Error()
		}
		if !strings.Contains(got, c.want) {
			t.Errorf("%s.%s to %s.%s: %s, want %s", c.from, c.fromPart, c.to, c.toPart, got, c.want)
		}
	}
}

// chain is n ellipses, each of which follows the opacity of the one before.
func chain(n int) *scene.Composition {
	c := scene.NewComposition("main", "Chain")
	for i := range n {
		item := &scene.Item{ID: scene.ID(fmt.Sprintf("i%d", i)), Name: fmt.Sprintf("Item %d", i), Kind: scene.Ellipse}
		if i > 0 {
			item.Edit("opacity").Links = []*scene.Link{{ID: "l", Kind: scene.Follow, Source: scene.Ref{Item: scene.ID(fmt.Sprintf("i%d", i-1)), Property: "opacity"}, Gain: 1}}
		}
		c.Items = append(c.Items, item)
	}
	return c
}

func TestReadsListsWhatLinksLookAt(t *testing.T) {
	c := chain(3)
	c.Items[2].Edit("rotation").Links = []*scene.Link{{ID: "f", Kind: scene.Formula, Gain: 1, Formula: "{@i0:@opacity} + {@i1:@scale.x} + {self:@opacity} + {parent:@rotation} + {prev:@pivot}"}}
	c.Items[2].Parent = "i1"
	c.RosterLinks = []*scene.RosterLink{{ID: "s", Name: "S", Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"i0", "i2"}}, Property: "strokeWidth", Out: []scene.ID{"i0"}, Link: &scene.Link{ID: "l", Kind: scene.Follow, Source: scene.Ref{Item: "i1", Property: "bend"}, Gain: 1}, WeightFrom: &scene.Ref{Item: "i0", Property: "glow"}}}
	got := map[string]int{}
	Reads(c, func(source, target scene.Ref, _ *scene.Link) {
		got[fmt.Sprintf("%s.%s drives %s.%s", source.Item, source.Property, target.Item, target.Property)]++
	})
	for _, want := range []string{
		"i0.opacity drives i1.opacity", "i1.opacity drives i2.opacity", "i0.opacity drives i2.rotation", "i1.scale drives i2.rotation", "i2.opacity drives i2.rotation", "i1.rotation drives i2.rotation", "i1.bend drives i2.strokeWidth", "i0.glow drives i2.strokeWidth",
	} {
		if got[want] != 1 {
			t.Errorf("%s: %d times", want, got[want])
		}
	}
	if len(got) != 8 {
		t.Errorf("there are %v", got)
	}
	if n := len(Drives(c)[scene.Ref{Item: "i0", Property: "opacity"}]); n != 2 {
		t.Errorf("the first opacity drives %d", n)
	}
}

func TestMapFits(t *testing.T) {
	for _, c := range []struct {
		from, to scene.Type
		part     string
		want     string
	}{
		{scene.Number, scene.Colour, "", ""}, {scene.Choice, scene.Text, "", ""}, {scene.Switch, scene.Point3, "", ""}, {scene.Point2, scene.Number, "y", ""},
		{scene.Point2, scene.Number, "", "use one of its components: x, y"}, {scene.Text, scene.Number, "", "is a text"}, {scene.Number, scene.Number, "q", "no component named"}, {scene.Colour, scene.Number, "hue", "read it in a formula"},
	} {
		_, err := mapFits(spec(c.from, ""), c.part, spec(c.to, ""), "")
		if (err == nil) != (c.want == "") || (err != nil && !strings.Contains(err.Error(), c.want)) {
			t.Errorf("%s.%s to %s: %v, want %q", c.from, c.part, c.to, err, c.want)
		}
	}
}

// Every kind of link says enough of itself to be checked, lowered, named and shown.
func TestEveryKindOfLinkIsWhole(t *testing.T) {
	seen := map[string]bool{}
	for _, k := range Kinds() {
		if k.Key == "" || k.Name == "" || seen[k.Name] {
			t.Errorf("%q has no name of its own: %q", k.Key, k.Name)
		}
		seen[k.Name] = true
		switch {
		case k.Sourced && k.Fits == nil:
			t.Errorf("%s has a source, but does not say what that fits", k.Name)
		case !k.Sourced && k.Formula == nil:
			t.Errorf("%s has neither a source nor a formula to take its value from", k.Name)
		case k.Formula != nil && !k.Sourced && (k.References == nil || k.Rename == nil):
			t.Errorf("%s has a formula, but does not say what that refers to, or how ids in it are brought up to date", k.Name)
		case (k.Stops || k.Posed) != (k.Response != nil):
			t.Errorf("%s has stops without a response, or a response without stops", k.Name)
		case !k.Sourced && k.Called == nil:
			t.Errorf("%s has no source to be called after, and no name in sentences", k.Name)
		}
		foreign := &scene.Link{ID: "l", Kind: k.Key, Gain: 1, Source: scene.Ref{Item: "i", Property: "p"}, Stops: []scene.MapStop{{}}, Formula: "1"}
		if err := foreign.Check(spec(scene.Number, "")); err == nil {
			t.Errorf("%s takes what only other kinds have", k.Name)
		}
	}
	if len(seen) < 3 {
		t.Errorf("there are %d kinds", len(seen))
	}
	none := &scene.Link{ID: "l", Kind: "none", Gain: 1}
	err := none.Check(spec(scene.Number, ""))
	for _, k := range Kinds() {
		if err == nil || !strings.Contains(err.Error(), string(k.Key)) {
			t.Errorf("a kind that does not exist: %v, want one that names %s", err, k.Key)
		}
	}
}

// A range led over another: its ends come to the ends of the other, wherever either begins.
func TestRangesAreMatchedEndToEnd(t *testing.T) {
	from := &scene.Spec{SoftMin: 10, SoftMax: 34}
	to := &scene.Spec{SoftMin: -7, SoftMax: 53}
	gain, offset, ok := Range(from, to)
	if low, high := from.SoftMin*gain+offset, from.SoftMax*gain+offset; !ok || low != -7 || high != 53 {
		t.Errorf("10 to 34 is led to %v to %v", low, high)
	}
	if _, _, ok := Range(&scene.Spec{}, to); ok {
		t.Error("a source without a range has one")
	}
}

// A map idles where both sides of an input give the same: between equal stops, and outside only where the ends are held.
func TestWhereAMapIdles(t *testing.T) {
	stops := []scene.MapStop{{In: 10, Out: scene.Num(3)}, {In: 40, Out: scene.Num(3)}, {In: 90, Out: scene.Num(71)}}
	for _, c := range []struct {
		beyond scene.Beyond
		x      float64
		want   bool
	}{
		{scene.HoldEnds, 4, true}, {scene.HoldEnds, 95, true}, {scene.Repeat, 4, false}, {scene.Repeat, 95, false}, {scene.Mirror, 95, false}, {scene.GoOn, 95, false},
		{scene.HoldEnds, 23, true}, {scene.Repeat, 23, true}, {scene.HoldEnds, 61, false}, {scene.Mirror, 61, false},
	} {
		if got := level(stops, c.beyond, c.x); got != c.want {
			t.Errorf("beyond %q, at %v it idles: %v", c.beyond, c.x, got)
		}
	}
}
