package engine

import (
	"fmt"
	"math"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/scene"
)

// fountain is an emitter that moves, attached to a null that turns, with a rate that rises.
func fountain(set map[string]scene.Value) *scene.Composition {
	c := scene.NewComposition("main", "C")
	null := &scene.Item{ID: "null", Name: "Null", Kind: scene.Null, Controls: []*scene.Control{{ID: "rate", Name: "Rate", Kind: scene.Fader, Default: scene.Num(50)}}}
	null.Edit("rotation").Pins = pins(0, 0, 300, 90)
	null.Edit("rate").Pins = pins(0, 0, 100, 80, 300, 20)
	e := &scene.Item{ID: "e", Name: "Emitter", Kind: scene.Emitter, Parent: "null"}
	e.Edit("position").Pins = []scene.Pin{{Frame: 0, Value: scene.Pt(0, 0, 0), Easing: curve.Linear}, {Frame: 300, Value: scene.Pt(300, 0, 0)}}
	e.Edit("rate").Links = []*scene.Link{follow("null", "rate", 1, 0)}
	for key, v := range set {
		e.Edit(key).Own = v
	}
	c.Items = []*scene.Item{null, e}
	return c
}

func particles(p *Plan, frame float64) []Particle {
	p.Evaluate(frame)
	var out []Particle
	p.Particles(p.Layout.Index("e"), func(one *Particle) { out = append(out, *one) })
	return out
}

func TestParticlesAreTheSamePlayedToAndJumpedTo(t *testing.T) {
	c := fountain(map[string]scene.Value{"inheritMotion": scene.Num(40), "drag": scene.Num(0.7), "source": scene.Num(2), "warmUp": scene.Num(1)})
	played := New(c)
	var last []Particle
	for f := range 201 {
		last = particles(played, float64(f))
	}
	if len(last) < 40 {
		t.Fatalf("%d particles live at frame 200", len(last))
	}
	back := particles(played, 40)
	for name, got := range map[string][]Particle{"jumped to": particles(New(c), 200), "scrubbed back to": particles(played, 200)} {
		if fmt.Sprint(got) != fmt.Sprint(last) {
			t.Errorf("%s, frame 200 differs", name)
		}
	}
	if fmt.Sprint(back) != fmt.Sprint(particles(New(c), 40)) {
		t.Error("frame 40 differs after frame 200 was seen")
	}
}

// At a steady rate without drag or chance, everything can be worked out by hand.
func TestParticlesFlyAsThePhysicsSays(t *testing.T) {
	c := scene.NewComposition("main", "C")
	e := &scene.Item{ID: "e", Name: "Emitter", Kind: scene.Emitter}
	for key, v := range map[string]scene.Value{
		"rate": scene.Num(10), "life": scene.Num(2), "speed": scene.Num(100), "direction": scene.Num(0), "spread": scene.Num(0), "variety": scene.Num(0), "gravity": scene.Num(50),
		"startSize": scene.Num(10), "endSize": scene.Num(0), "position": scene.Pt(7, 0, 0),
	} {
		e.Edit(key).Own = v
	}
	c.Items = []*scene.Item{e}
	got := particles(New(c), 100) // 4 s: numbers 0 to 39 were born, at 0.1 s, 0.2 s …
	if len(got) != 20 {
		t.Fatalf("%d particles live, want those of the last two seconds", len(got))
	}
	for _, p := range got {
		age := 4 - float64(p.Number+1)/10
		x, y := 7+100*age, -25*age*age
		if math.Abs(p.Place[0]-x)+math.Abs(p.Place[1]-y) > 1e-6 || math.Abs(p.Size-10*(1-age/2)) > 1e-6 {
			t.Errorf("number %d, %.2f s old, is at %v of size %g; want %g, %g", p.Number, age, p.Place, p.Size, x, y)
		}
	}
}

// The closed form with drag is held against many small steps.
func TestDragAgreesWithSmallSteps(t *testing.T) {
	for _, drag := range []float64{0, 1e-6, 1e-3, 0.4, 3, 80} {
		gone, fallen, slowed := travel(drag, 2)
		x, v, y, w := 0.0, 1.0, 0.0, 0.0
		const steps = 400000
		for range steps {
			h := 2.0 / steps
			// the midpoint rule
			vm, wm := v-drag*v*h/2, w+(1-drag*w)*h/2
			x, y = x+vm*h, y+wm*h
			v, w = v-drag*vm*h, w+(1-drag*wm)*h
		}
		if math.Abs(gone-x) > 1e-6 || math.Abs(fallen-y) > 1e-6 || math.Abs(slowed-v) > 1e-6 {
			t.Errorf("drag %g: gone %g, fallen %g, slowed to %g; in steps %g, %g, %g", drag, gone, fallen, slowed, x, y, v)
		}
	}
}

func TestTheTrailStaysWhereItWasBorn(t *testing.T) {
	c := fountain(map[string]scene.Value{"speed": scene.Num(0), "gravity": scene.Num(0), "variety": scene.Num(0), "life": scene.Num(20)})
	p := New(c)
	places := map[int][3]float64{}
	for _, one := range particles(p, 150) {
		places[one.Number] = one.Place
	}
	for _, one := range particles(p, 250) {
		if was, ok := places[one.Number]; ok && was != one.Place {
			t.Fatalf("number %d went from %v to %v", one.Number, was, one.Place)
		}
	}
	if len(places) < 100 {
		t.Errorf("%d particles", len(places))
	}
}

func TestParticlesFollowAChangeOfWhatTheyAreMadeOf(t *testing.T) {
	c := fountain(nil)
	p := New(c)
	before := len(particles(p, 200))
	c.Items[0].Edit("rate").Pins = pins(0, 200)
	p.Patch(scene.Ref{Item: c.Items[0].ID, Property: "rate"})
	if after := len(particles(p, 200)); after < 2*before {
		t.Errorf("%d particles before the rate rose, %d after", before, after)
	}
	if got, want := fmt.Sprint(particles(p, 200)), fmt.Sprint(particles(New(c), 200)); got != want {
		t.Error("after a patch, the particles are not those of a new plan")
	}
	c.Items[1].Edit("rate").Links = nil
	c.Items[1].Edit("rate").Own = scene.Num(0)
	if n := len(particles(New(c), 200)); n != 0 {
		t.Errorf("%d particles at a rate of nothing", n)
	}
}

func TestManyParticlesAreBounded(t *testing.T) {
	c := fountain(map[string]scene.Value{"life": scene.Num(600)})
	c.Items[1].Edit("rate").Links = nil
	c.Items[1].Edit("rate").Own = scene.Num(100000)
	n, last := 0, 0
	p := New(c)
	p.Evaluate(299)
	p.Particles(p.Layout.Index("e"), func(one *Particle) { n++; last = one.Number })
	if n > MaxParticles || last < 1190000 {
		t.Errorf("%d particles, the youngest number %d", n, last)
	}
}

func BenchmarkParticles(b *testing.B) {
	c := fountain(map[string]scene.Value{"life": scene.Num(100)})
	c.Items[1].Edit("rate").Links = nil
	c.Items[1].Edit("rate").Own = scene.Num(2000)
	p := New(c)
	n := 0
	for b.Loop() {
		n = 0
		p.Evaluate(250)
		p.Particles(p.Layout.Index("e"), func(*Particle) { n++ })
	}
	b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(b.N)/float64(n), "ns/particle")
	b.ReportMetric(float64(n), "particles")
}

// Particles are born at the pivot of their emitter, however that is turned; a project of before keeps them where they were.
func TestParticlesAreBornAtThePivot(t *testing.T) {
	emitter := func() (*scene.Composition, *scene.Item) {
		c := scene.NewComposition("main", "Main")
		item := &scene.Item{ID: "e", Name: "E", Kind: scene.Emitter}
		item.Edit("position").Own = scene.Pt(70, 40, 0)
		item.Edit("pivot").Own = scene.Pt(23, -11, 0)
		item.Edit("speed").Own = scene.Num(0)
		item.Edit("gravity").Own = scene.Num(0)
		c.Items = []*scene.Item{item}
		return c, item
	}
	first := func(c *scene.Composition) (at [3]float64) {
		p := New(c)
		p.Evaluate(20)
		p.Particles(0, func(one *Particle) { at = one.Place })
		return at
	}
	c, item := emitter()
	item.Edit("rotation").Own = scene.Num(34)
	if at := first(c); math.Hypot(at[0]-70, at[1]-40) > 1e-9 {
		t.Errorf("turned, they are born at %v", at)
	}
	c, item = emitter()
	item.Upgrade(2)
	if at := first(c); math.Hypot(at[0]-47, at[1]-51) > 1e-9 {
		t.Errorf("those of before are born at %v", at)
	}
}
