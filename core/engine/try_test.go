package engine

import (
	"math"
	"testing"

	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// What is tried out gives what the same formula gives as a link, wherever it stands, and leaves the
// frame that was evaluated as it is.
func TestWhatIsTriedOutEqualsALink(t *testing.T) {
	for _, text := range []string{
		"{Rig: Amount} * 2 + own", "delay({Rig: Amount}, 7f) + delay(own, 2f)", "accumulate({Rig: Amount} / 3) - average({Rig: Amount}, 9f)", "every(noise(time, 2), 4f) * 40 + loop(frame, 0s, 1s)",
		"at(delay({Rig: Amount}, 3f), time / 2)", "{Flag 1: world.position}.x + {self: opacity}", "if({Rig: Amount} > 20, below, -below)", "{Rig: Tint}.g * 90",
	} {
		c := flags(2)
		c.Items[1].Edit("rotation").Own = scene.Num(11)
		ref := scene.Ref{Item: "i0", Property: "rotation"}
		c.Items[2].Edit("position").Own = scene.Pt(5, 6, 7)
		c.Items[0].Edit("scale").Links = []*scene.Link{{ID: "x", Kind: scene.Follow, Source: scene.Ref{Item: "i1", Property: "worldPosition"}, Off: true}} // so that it has a slot
		before := New(c)
		before.Evaluate(3)
		frames := []float64{0, 12.5, 33, 80}
		compiled, tried := before.Try(text, ref, frames...)
		if compiled.Program == nil {
			t.Fatalf("%s: %v", text, compiled.Errors())
		}
		if before.Frame() != 3 {
			t.Errorf("%s: the frame is %v now", text, before.Frame())
		}
		written(t, c, ref, text)
		after := New(c)
		for k, frame := range frames {
			after.Evaluate(frame)
			if got, want := tried[k].At(0), after.Value(ref).At(0); math.Abs(got-want) > 1e-9 {
				t.Errorf("%s at %v: tried %v, as a link %v", text, frame, got, want)
			}
		}
	}
}

func TestTriedOutOnAMemberOfARosterAndByItself(t *testing.T) {
	c := flags(4)
	rostered(t, c, "index * 10")
	p := New(c)
	p.Evaluate(0)
	for k := range 4 {
		scope := wire.RosterScope(p.Layout, c.RosterLinks[0], k)
		_, v := p.TryIn("number * 100 + ({prev: rotation} else 7) + delay({self: rotation}, 2f)", p.Layout.Index(scope.Self.ID), scope, 5)
		want := float64(100*(k+1)) + float64(10*(k-1)) + float64(10*k)
		if k == 0 {
			want = 107
		}
		if v[0].At(0) != want {
			t.Errorf("member %d: %v, want %v", k, v[0], want)
		}
	}
	if _, v := p.Try(`text("at ", {Rig: Amount}, "!")`, scene.Ref{}, 40); v[0].Str() != "at 40!" {
		t.Errorf("a text: %v", v[0])
	}
	if compiled, v := p.Try("own", scene.Ref{}, 40); compiled.Program != nil || v != nil {
		t.Error("own has no meaning by itself")
	}
}

// What nothing drives can be posed, too: what follows it follows the pose, at every frame, pins or not.
func TestWhatFollowsAPosedControlFollowsThePose(t *testing.T) {
	c := flags(1)
	c.Items[1].Edit("rotation").Links = []*scene.Link{{ID: "l", Kind: scene.Follow, Source: scene.Ref{Item: "rig", Property: "amount"}, Gain: 2}}
	p := New(c)
	at := scene.Ref{Item: "i0", Property: "rotation"}
	for _, pinned := range []bool{true, false} {
		if !pinned {
			c.Items[0].Edit("amount").Pins = nil
			p = New(c)
		}
		p.Evaluate(10)
		p.Pose(scene.Ref{Item: "rig", Property: "amount"}, scene.Num(70))
		for _, frame := range []float64{10, 40, 41} {
			p.Evaluate(frame)
			if got := p.Value(at).At(0); got != 140 {
				t.Errorf("pinned %v, at frame %v it is turned by %v", pinned, frame, got)
			}
		}
		p.Pose(scene.Ref{Item: "rig", Property: "amount"}, scene.Value{})
		p.Evaluate(20)
		if got, want := p.Value(at).At(0), map[bool]float64{true: 40, false: 0}[pinned]; got != want {
			t.Errorf("pinned %v, no longer posed it is turned by %v, want %v", pinned, got, want)
		}
	}
}
