package gesture_test

import (
	"math"
	"strings"
	"testing"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/engine"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/poses"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/scene"
)

// stack is a null with controls of several kinds, and four rectangles.
func stack(t *testing.T) *bench {
	rig := &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{
		{ID: "tilt", Name: "Tilt", Kind: scene.Fader, SoftMin: -200, SoftMax: 200, Default: scene.Num(7)},
		{ID: "lit2", Name: "Lit", Kind: scene.SwitchWidget, Default: scene.On(false)},
		{ID: "hour", Name: "Hour", Kind: scene.Fader, SoftMax: 20, Default: scene.Num(3), Poses: []scene.PoseStop{{ID: "s1", Name: "Early", Easing: "linear"}, {ID: "s2", Name: "Late", At: 20, Easing: "linear"}}},
	}}
	return newBench(t, rig, item("a", scene.Rectangle, 10, 3, 100), item("b", scene.Rectangle, 50, 11, 100), item("c", scene.Rectangle, 70, 29, 100), item("d", scene.Rectangle, 90, 31, 100))
}

func all(property string, components ...string) (out []scene.Ref) {
	for k, id := range []scene.ID{"a", "b", "c", "d"} {
		one := ref(id, property)
		if len(components) > 0 {
			one.Component = components[k%len(components)]
		}
		out = append(out, one)
	}
	return out
}

func (b *bench) shownAll(refs []scene.Ref) string {
	var out []string
	for _, r := range refs {
		out = append(out, b.shown(r, 0))
	}
	return strings.Join(out, " ")
}

func (b *bench) singles(refs []scene.Ref) (n int) {
	for _, r := range refs {
		n += len(b.c.Item(r.Item).State(r.Property).Links)
	}
	return n
}

// One link drives the same property of several items, and changes nothing in the picture, whatever they are at.
func TestSeveralItemsAreDrivenByOneLink(t *testing.T) {
	b := stack(t)
	rotations := all("rotation")
	before := b.shownAll(rotations)
	b.do(&wiring.Link{Source: ref("rig", "tilt"), Targets: rotations}, 0)
	if len(b.c.RosterLinks) != 1 || b.singles(rotations) != 0 || b.shownAll(rotations) != before {
		t.Fatalf("%d rows, %d single links; %s became %s", len(b.c.RosterLinks), b.singles(rotations), before, b.shownAll(rotations))
	}
	b.set(ref("rig", "tilt"), 20)
	if now := b.shownAll(rotations); before != "3 11 29 31" || now != "16 24 42 44" {
		t.Errorf("13 further, they are at %s", now)
	}
	b.do(&wiring.Link{Source: ref("rig", "lit2"), Targets: all("opacity")}, 0)
	b.do(&wiring.Link{Source: ref("rig", "tilt"), Targets: all("position", "x", "y", "x", "x")}, 0)
	row := b.c.RosterLinks[2]
	if len(b.c.RosterLinks) != 3 || row.Component != "x" || len(row.Parts) != 1 || row.Parts["b"] != "y" {
		t.Fatalf("%+v", row)
	}
	if got := b.shownAll(all("position")); got != "[20, 5, 0] [50, 20, 0] [20, 35, 0] [20, 45, 0]" {
		t.Errorf("on mixed axes they are at %s", got)
	}

	b = stack(t) // what is asked for alone, and what can't be one
	b.do(&wiring.Link{Source: ref("rig", "tilt"), Targets: rotations, Single: true}, 0)
	if len(b.c.RosterLinks) != 0 || b.singles(rotations) != 4 {
		t.Errorf("single links: %d rows", len(b.c.RosterLinks))
	}
	b.do(&wiring.Link{Source: ref("rig", "hour"), Targets: all("opacity")}, 0)
	if len(b.c.RosterLinks) != 0 || b.singles(all("opacity")) != 4 || len(b.c.Item("c").State("opacity").Links[0].Held) != 2 {
		t.Errorf("poses: %d rows, %d links", len(b.c.RosterLinks), b.singles(all("opacity")))
	}

}

// A map that drives several begins as one that changes none of them.
func TestAMapOnSeveralChangesNone(t *testing.T) {
	b := stack(t)
	for k, id := range []scene.ID{"a", "b", "c", "d"} {
		b.c.Item(id).Edit("fill").Own = scene.RGBA(0.1*float64(k), 0.37, 0.2, 1)
	}
	for _, targets := range [][]scene.Ref{all("fill"), all("rotation"), all("fill", "r")} {
		kind := scene.Map
		before := b.shownAll(targets)
		b.do(&wiring.Link{Source: ref("rig", "tilt"), Targets: targets, Kind: kind}, 0)
		if after := b.shownAll(targets); after != before || b.singles(targets) != 0 {
			t.Errorf("%s: %s became %s", targets[0].Property, before, after)
		}
	}
}

// One that has a link of its own, which hides what is below it, is linked on its own; one that the source doesn't fit, or that is the
// source, is left out.
func TestExceptionsOfARow(t *testing.T) {
	b := stack(t)
	b.do(&wiring.Formula{Targets: []scene.Ref{ref("b", "rotation")}, Text: "57"}, 0)
	r := b.do(&wiring.Link{Source: ref("rig", "tilt"), Targets: all("rotation"), Follow: true}, 0)
	if got := b.shownAll(all("rotation")); got != "3 3 3 3" || !strings.Contains(r.Note, "1 item") {
		t.Errorf("they are at %s (%s)", got, r.Note)
	}
	r = b.do(&wiring.Link{Source: ref("d", "opacity"), Targets: all("opacity"), Follow: true}, 0)
	if members := b.c.RosterLinks[1].Members(b.c); len(members) != 3 || !strings.Contains(r.Note, "itself") {
		t.Errorf("%d members (%s)", len(members), r.Note)
	}
	r = b.do(&wiring.Link{Source: ref("rig", "tilt"), Targets: append(all("cornerRadius"), ref("rig", "rotation")), Follow: true}, 0)
	if len(r.Ops) < 2 || len(b.c.RosterLinks) != 3 || len(b.c.Item("rig").State("rotation").Links) != 1 {
		t.Errorf("%d rows for two properties", len(b.c.RosterLinks))
	}
}

// A link that was copied is pasted onto several as one, and a control that is made for several drives them by one.
func TestPastedAndMadeForSeveral(t *testing.T) {
	b := stack(t)
	b.do(&wiring.PasteLink{Link: scene.Link{ID: "x", Kind: scene.Follow, Source: ref("rig", "tilt"), Gain: 3}, Targets: all("rotation")}, 0)
	if got := b.shownAll(all("rotation")); got != "21 21 21 21" || len(b.c.RosterLinks) != 1 {
		t.Errorf("pasted: %s", got)
	}
	b.do(&wiring.PasteLink{Link: scene.Link{ID: "x", Kind: scene.Formula, Formula: "{@rig:@tilt} + 4", Gain: 1}, Targets: all("opacity")}, 0)
	if got := b.shownAll(all("opacity")); got != "11 11 11 11" || len(b.c.RosterLinks) != 2 {
		t.Errorf("a formula, pasted: %s", got)
	}
	b = stack(t)
	before := b.shownAll(all("rotation"))
	r := b.do(&wiring.AddControl{Item: "rig", Control: scene.Control{Kind: scene.Fader, Name: "Lean"}, Drives: all("rotation")}, 0)
	if got := b.shownAll(all("rotation")); got != before || len(b.c.RosterLinks) != 1 {
		t.Errorf("%s became %s by %d rows", before, got, len(b.c.RosterLinks))
	}
	made := ref("rig", string(r.Made[0]))
	b.set(made, b.context(0).Plan().Value(made).At(0)+6)
	if got := b.shownAll(all("rotation")); got != "9 17 35 37" {
		t.Errorf("6 further they are at %s", got)
	}
}

// A member can drive a property of its own in place of the row's.
func TestAMemberDrivesAPropertyOfItsOwn(t *testing.T) {
	b := stack(t)
	b.do(&wiring.Link{Source: ref("rig", "tilt"), Targets: all("position", "x"), Follow: true}, 0)
	row := b.c.RosterLinks[0].Clone()
	row.Keys, row.Parts = map[scene.ID]string{"b": "rotation", "c": "position"}, map[scene.ID]string{"c": "y"}
	row.Link.Stagger = &scene.Stagger{Offset: 4}
	b.c.RosterLinks[0] = row
	b.c.Changed()
	if got := b.shownAll(all("position")) + " " + b.shown(ref("b", "rotation"), 0); got != "[10, 5, 0] [50, 25, 0] [70, 18, 0] [22, 45, 0] 14" {
		t.Errorf("they are at %s", got)
	}
	if on := b.c.RosterLinksOn(b.c.Item("b"), "rotation"); len(on) != 1 || len(b.c.RosterLinksOn(b.c.Item("b"), "position")) != 0 {
		t.Error("it is not known what the member drives")
	}
}

// numbers are the values of properties at some frames, one after the other.
func (b *bench) numbers(refs []scene.Ref) (out []float64) {
	plan := engine.New(b.c)
	for _, frame := range []float64{0, 3, 17, 41} {
		plan.Evaluate(frame)
		for _, r := range refs {
			out = append(out, plan.Value(r).Nums()...)
		}
	}
	return out
}

func near(a, b []float64) bool {
	for k := range a {
		if math.Abs(a[k]-b[k]) > 1e-9*(1+math.Abs(a[k])) {
			return false
		}
	}
	return len(a) == len(b)
}

// A link on a row, of every kind and with every stagger, does what the single links do that it stands for, and these, where they grow
// evenly, become the same again.
func TestARowIsWhatItsSingleLinksAre(t *testing.T) {
	share := 60.0
	held := []scene.Held{{Stop: "s1", Value: scene.Num(4)}, {Stop: "s2", Value: scene.Num(31)}}
	stops := []scene.MapStop{{In: -200, Out: scene.Num(3), Easing: curve.Smooth}, {In: 30, Out: scene.Num(47), Easing: curve.Smooth}, {In: 200, Out: scene.Num(5), Easing: curve.Linear}}
	links := map[string]scene.Link{
		"follow":          {Kind: scene.Follow, Source: ref("rig", "tilt"), Gain: 0.7, Offset: 3},
		"follow, late":    {Kind: scene.Follow, Source: ref("rig", "tilt"), Gain: 0.7, Delay: 2.5},
		"map":             {Kind: scene.Map, Source: ref("rig", "tilt"), Gain: 1.3, Stops: stops, Operation: scene.Plus},
		"pose":            {Kind: scene.Posed, Source: ref("rig", "hour"), Gain: 1, Held: held},
		"formula":         {Kind: scene.Formula, Formula: "below * 0.3 + {@rig:@tilt} + wave(time)", Gain: 1.7},
		"multiplied":      {Kind: scene.Follow, Source: ref("rig", "tilt"), Gain: 0.1, Operation: scene.Multiply},
		"counting":        {Kind: scene.Formula, Formula: "far = {first:@opacity} / 9 + index * 3 + share * 7\nfar + count * 0.3 + {last:@opacity} / 7 + count({@*\"*\"}) * number", Gain: 0.9},
		"a formula, late": {Kind: scene.Formula, Formula: "own + {@rig:@tilt}", Gain: 1, Delay: 4},
	}
	staggers := map[string]*scene.Stagger{
		"none": nil, "each further": {Offset: 2.3, Gain: 0.1, Delay: 3}, "from one": {By: scene.FromOne, Delay: 1.5}, "by share": {By: scene.AsShare, Offset: 9},
		"shuffled": {Offset: 2.3, Seed: 7}, "by a curve": {By: scene.ByCurve, Gain: 0.4, Delay: 6, Curve: []scene.MapStop{{In: 0, Out: scene.Num(0.2), Easing: curve.Smooth}, {In: 0.6, Out: scene.Num(1.9), Easing: curve.Linear}, {In: 1, Out: scene.Num(0.1), Easing: curve.Linear}}},
	}
	for kind, l := range links {
		for how, stagger := range staggers {
			for _, alter := range []func(s *scene.RosterLink){
				func(*scene.RosterLink) {},
				func(s *scene.RosterLink) { s.Out = []scene.ID{"b"} },
				func(s *scene.RosterLink) { s.Weight = &share },
				func(s *scene.RosterLink) { from := ref("rig", "hour"); s.WeightFrom = &from },
				func(s *scene.RosterLink) {
					s.Property, s.Component, s.Parts = "position", "x", map[scene.ID]string{"c": "y"}
				},
				func(s *scene.RosterLink) { s.Keys = map[scene.ID]string{"d": "strokeWidth"} },
			} {
				b := stack(t)
				for _, key := range []string{"tilt", "hour"} {
					b.c.Item("rig").Edit(key).Pins = []scene.Pin{{Frame: 0, Value: scene.Num(3), Easing: curve.Linear}, {Frame: 40, Value: scene.Num(19), Easing: curve.Linear}}
				}
				one := l
				one.ID = "l"
				one.Stagger = stagger
				s := &scene.RosterLink{ID: "s", Name: "Row", Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"c", "a", "d", "b"}}, Property: "rotation", Link: one.Clone()}
				alter(s)
				b.do(&gesture.Operations{Ops: change.Ops{&change.RosterLinkAdd{In: change.In{Composition: b.c.ID}, Value: s, At: -1}}}, 0)
				refs := append(append(all("rotation"), all("position")...), all("strokeWidth")...)
				before := b.numbers(refs)
				b.do(&wiring.SingleLinks{RosterLink: "s"}, 0)
				if after := b.numbers(refs); !near(before, after) || len(b.c.RosterLinks) > 0 {
					t.Fatalf("%s, %s: %v became %v", kind, how, before, after)
				}
			}
		}
	}
}

// One member becomes an exception with a link of its own; what leans on a neighbour that is not there can't.
func TestAnExceptionHasALinkOfItsOwn(t *testing.T) {
	b := stack(t)
	b.do(&wiring.Link{Source: ref("rig", "tilt"), Targets: all("rotation"), Follow: true}, 0)
	b.c.RosterLinks[0].Link.Stagger = &scene.Stagger{Offset: 4}
	was := b.shownAll(all("rotation"))
	b.do(&wiring.SingleLinks{RosterLink: b.c.RosterLinks[0].ID, Members: []scene.ID{"c"}}, 0)
	if got := b.shownAll(all("rotation")); got != was || len(b.c.RosterLinks) != 1 || b.c.Item("c").State("rotation").Links[0].Offset != 8 {
		t.Errorf("%s became %s", was, got)
	}
	b.do(&wiring.Spread{Targets: all("opacity"), Text: "({prev: rotation} else 3) + index"}, 0)
	if _, err := b.try(&wiring.SingleLinks{RosterLink: b.c.RosterLinks[1].ID}, 0); err == nil || !strings.Contains(err.Error(), "other members") {
		t.Error(err)
	}
}

// Single links that grow evenly become one link, in the order in which they grow; others are refused.
func TestSingleLinksBecomeOne(t *testing.T) {
	b := stack(t)
	b.do(&wiring.Link{Source: ref("rig", "tilt"), Targets: all("position", "x", "y", "x", "x"), Single: true, Follow: true}, 0)
	late := []float64{9, 3, 6, 0}
	g := &wiring.OneLink{}
	for k, r := range all("position") {
		l := b.c.Item(r.Item).State("position").Links[0]
		l.Delay = late[k]
		g.Targets, g.Links = append(g.Targets, r), append(g.Links, l.ID)
	}
	b.c.Item("rig").Edit("tilt").Pins = []scene.Pin{{Frame: 0, Value: scene.Num(3), Easing: curve.Linear}, {Frame: 40, Value: scene.Num(83), Easing: curve.Linear}}
	before := b.numbers(all("position"))
	b.do(g, 0)
	if after := b.numbers(all("position")); !near(before, after) || len(b.c.RosterLinks) != 1 || b.singles(all("position")) != 0 {
		t.Errorf("%v became %v", before, after)
	}
	if s := b.c.RosterLinks[0]; s.Link.Stagger.Delay != 3 || s.Members(b.c)[0].Item.ID != "d" || s.Parts["b"] == s.Component {
		t.Errorf("%+v, %+v", s, s.Link.Stagger)
	}
	b = stack(t)
	b.do(&wiring.Link{Source: ref("rig", "tilt"), Targets: all("rotation"), Single: true, Follow: true}, 0)
	b.c.Item("c").State("rotation").Links[0].Gain = 1.7
	for k, r := range all("rotation") {
		g.Targets[k], g.Links[k] = r, b.c.Item(r.Item).State("rotation").Links[0].ID
	}
	if _, err := b.try(g, 0); err == nil {
		t.Error("links that differ became one")
	}
}

// A member that is posed sets a stop of the map that drives all of its row.
func TestAStopOfARowIsSetByOneOfItsMembers(t *testing.T) {
	for name, stagger := range map[string]*scene.Stagger{"plain": nil, "each further": {Offset: 6, Gain: 0.5}} {
		b := stack(t)
		for _, r := range all("opacity") {
			b.set(r, 40)
		}
		b.set(ref("rig", "tilt"), -200)
		b.do(&wiring.Link{Source: ref("rig", "tilt"), Targets: all("opacity"), Kind: scene.Map}, 0)
		b.c.RosterLinks[0].Link.Stagger = stagger
		b.c.RosterLinks[0].Link.Gain = 1
		b.set(ref("rig", "tilt"), 150)
		if _, err := b.posed(&poses.Mark{Targets: []scene.Ref{ref("c", "opacity"), ref("a", "opacity"), ref("d", "opacity"), ref("b", "opacity")}, Which: "high"},
			gesture.Pose{Ref: ref("c", "opacity"), Value: scene.Num(83)}, gesture.Pose{Ref: ref("d", "opacity"), Value: scene.Num(9)}); err != nil {
			t.Fatal(err)
		}
		if got := b.shown(ref("c", "opacity"), 0); got != "83" {
			t.Errorf("%s: the member is at %s", name, got)
		}
		if stops := b.c.RosterLinks[0].Link.Stops; len(stops) != 2 || stops[1].In != 150 {
			t.Errorf("%s: %+v", name, stops)
		}
	}
	b := stack(t) // a follow link becomes a map by it, of one that is posed alone its own
	for _, r := range all("opacity") {
		b.set(r, 40)
	}
	b.do(&wiring.Link{Source: ref("rig", "tilt"), Targets: all("opacity")}, 0)
	b.set(ref("rig", "tilt"), 120)
	if _, err := b.posed(&poses.Mark{Targets: []scene.Ref{ref("b", "opacity")}, Which: "high"}, gesture.Pose{Ref: ref("b", "opacity"), Value: scene.Num(71)}); err != nil {
		t.Fatal(err)
	}
	if got := b.shownAll(all("opacity")); got != "100 71 100 100" || b.c.RosterLinks[0].Link.Kind != scene.Follow || len(b.c.RosterLinks[0].Out) != 1 {
		t.Errorf("they are at %s", got)
	}
	b.set(ref("rig", "tilt"), -31)
	rest := b.c.RosterLinks[0].Members(b.c)
	refs := []scene.Ref{ref("a", "opacity"), ref("c", "opacity"), ref("d", "opacity")}
	if _, err := b.posed(&poses.Mark{Targets: refs, Which: "low"}, gesture.Pose{Ref: refs[0], Value: scene.Num(23)}); err != nil {
		t.Fatal(err)
	}
	if got := b.shownAll(refs); got != "23 23 23" || b.c.RosterLinks[0].Link.Kind != scene.Map || len(rest) != 4 {
		t.Errorf("they are at %s", got)
	}
}

// Where a map adds to what the members are at, a pose says what it adds, of one link or on a row.
func TestAStopOfWhatIsAdded(t *testing.T) {
	for _, single := range []bool{false, true} {
		b := stack(t)
		b.set(ref("rig", "tilt"), -200)
		b.do(&wiring.Link{Source: ref("rig", "tilt"), Targets: all("rotation"), Kind: scene.Map, Single: single}, 0)
		if single {
			for _, r := range all("rotation") {
				l := b.c.Item(r.Item).State("rotation").Links[0]
				l.Operation = scene.Plus
				for k := range l.Stops {
					l.Stops[k].Out = scene.Num(0)
				}
			}
		}
		b.set(ref("rig", "tilt"), 170)
		var at []gesture.Pose
		for k, r := range all("rotation") {
			at = append(at, gesture.Pose{Ref: r, Value: scene.Num([]float64{3, 11, 29, 31}[k] + 47)})
		}
		if _, err := b.posed(&poses.Mark{Targets: all("rotation"), Which: "high"}, at...); err != nil {
			t.Fatal(err)
		}
		if got := b.shownAll(all("rotation")); got != "50 58 76 78" {
			t.Errorf("single %v: they are at %s", single, got)
		}
	}
}

// One more item joins the row that the source drives already, by one gesture, unless a link of its own is asked for.
func TestOneMoreJoinsTheRow(t *testing.T) {
	b := stack(t)
	b.do(&wiring.Link{Source: ref("rig", "tilt"), Targets: all("rotation")[:3], Follow: true}, 0)
	b.c.RosterLinks[0].Link.Stagger = &scene.Stagger{Offset: 4}
	r := b.do(&wiring.Link{Source: ref("rig", "tilt"), Targets: all("rotation")[3:], Follow: true}, 0)
	if got := b.shownAll(all("rotation")); got != "3 7 11 15" || b.singles(all("rotation")) != 0 || !strings.Contains(r.Note, "number 4") {
		t.Errorf("they are at %s (%s)", got, r.Note)
	}
	b.do(&wiring.Link{Source: ref("rig", "tilt"), Targets: all("opacity")[:2], Follow: true}, 0)
	b.do(&wiring.Link{Source: ref("rig", "tilt"), Targets: all("opacity")[2:3], Follow: true, Single: true}, 0)
	b.do(&wiring.Link{Source: ref("rig", "tilt"), Targets: all("opacity")[3:], Kind: scene.Map}, 0)
	if b.singles(all("opacity")) != 2 || len(b.c.RosterLinks) != 2 {
		t.Errorf("%d single links, %d rows", b.singles(all("opacity")), len(b.c.RosterLinks))
	}
}
