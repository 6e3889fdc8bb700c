package lottie

import (
	"fmt"
	"math"
	"strings"
	"testing"
	"time"

	"wunderkammer/core/engine"
	"wunderkammer/core/scene"
)

func ids() func() scene.ID {
	n := 0
	return func() scene.ID {
		n++
		return scene.ID(fmt.Sprintf("i%d", n))
	}
}

func composed(t *testing.T, d *Drawing) *scene.Composition {
	t.Helper()
	c := scene.NewComposition("main", "C")
	c.Items, c.Frames = d.Items, max(1, d.Frames)
	for _, item := range d.Items {
		if err := item.Check(); err != nil {
			t.Fatalf("%s: %v", item.Name, err)
		}
	}
	return c
}

func readOf(t *testing.T, text string, start int, rate float64) (*Drawing, *scene.Composition) {
	t.Helper()
	d, err := Read([]byte(text), nil, start, rate, ids())
	if err != nil {
		t.Fatal(err)
	}
	return d, composed(t, d)
}

func byName(t *testing.T, c *scene.Composition, name string) *scene.Item {
	t.Helper()
	for _, item := range c.Items {
		if item.Name == name {
			return item
		}
	}
	t.Fatalf("there is no %q", name)
	return nil
}

// box is what an item takes up in the composition: left, bottom, right, top.
func box(p *engine.Plan, id scene.ID) (out [4]float64) {
	i := p.Layout.Index(id)
	world, shape := p.World(i), p.Shape(i)
	out = [4]float64{math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)}
	shape.Map(1, func(x, y float64) (float64, float64) {
		at := world.Apply([3]float64{x, y, 0})
		out[0], out[1], out[2], out[3] = min(out[0], at[0]), min(out[1], at[1]), max(out[2], at[0]), max(out[3], at[1])
		return x, y
	})
	return out
}

func near(a, b [4]float64, by float64) bool {
	for k := range a {
		if !(math.Abs(a[k]-b[k]) <= by) {
			return false
		}
	}
	return true
}

func TestWhatIsWrittenComesBackAsItMoved(t *testing.T) {
	c := scene.NewComposition("main", "C")
	c.Frames, c.Rate, c.Width, c.Height = 61, 24, 800, 450
	lamp := &scene.Item{ID: "lamp", Name: "Lamp", Kind: scene.Rectangle}
	lamp.Edit("rotation").Links = []*scene.Link{{ID: "r", Kind: scene.Formula, Gain: 1, Formula: "wave(frame * 0.021) * 70"}}
	lamp.Edit("position").Own = scene.Pt(40, -20, 0)
	lamp.Edit("scale").Own = scene.Pt(80, 130, 100)
	lamp.Edit("strokeWidth").Own = scene.Num(7)
	lamp.Edit("opacity").Links = []*scene.Link{{ID: "o", Kind: scene.Formula, Gain: 1, Formula: "100 - frame * 1.3"}}
	glow := &scene.Item{ID: "glow", Name: "Glow", Kind: scene.Ellipse, Parent: "lamp"}
	glow.Edit("position").Links = []*scene.Link{{ID: "p", Kind: scene.Formula, Gain: 1, Formula: "[frame * 3.1, 90 - frame, 0]"}}
	glow.Edit("fill").Own = scene.RGBA(0.3, 0.6, 0.1, 0.75)
	c.Items = []*scene.Item{lamp, glow}
	d, err := Read(exported(t, c, Options{Width: 800, Height: 450, Tolerance: 0.05}), nil, 5, 24, ids())
	if err != nil || len(d.Missed) > 0 || d.Frames != 61 {
		t.Fatalf("%v, %q, %d frames", err, d.Missed, d.Frames)
	}
	back := composed(t, d)
	was, is := engine.New(c), engine.New(back)
	for _, frame := range []float64{0, 7, 23, 48, 60} {
		was.Evaluate(frame)
		is.Evaluate(frame + 5)
		for _, one := range c.Items {
			item := byName(t, back, one.Name)
			if a, b := box(was, one.ID), box(is, item.ID); !near(a, b, 0.2) {
				t.Errorf("at frame %v %s takes up %v, not %v", frame, one.Name, b, a)
			}
			for _, key := range []string{"opacity", "strokeWidth"} {
				a, b := was.Derived(was.Layout.Index(one.ID), key).At(0), is.Derived(is.Layout.Index(item.ID), key).At(0)
				if math.Abs(a-b) > 1.1 {
					t.Errorf("at frame %v %s of %s is %v, not %v", frame, key, one.Name, b, a)
				}
			}
		}
	}
	if fill := byName(t, back, "Glow").State("fill").Own; math.Abs(fill.At(1)-0.6) > 0.01 || math.Abs(fill.At(3)-0.75) > 0.01 {
		t.Errorf("the glow is %v", fill)
	}
}

const kite = `{"v":"5.7","fr":50,"ip":10,"op":110,"w":400,"h":300,"assets":[{"id":"tail","layers":[
	{"ty":4,"nm":"Bow","ip":0,"op":100,"ks":{"p":{"a":0,"k":[0,30]},"r":{"a":0,"k":20}},"shapes":[
		{"ty":"rc","nm":"Cloth","s":{"a":0,"k":[30,8]},"p":{"a":0,"k":[3,-2]},"r":{"a":0,"k":0}},{"ty":"fl","c":{"a":0,"k":[0.9,0.2,0.1,1]},"o":{"a":0,"k":60}}]}]}],
 "layers":[
	{"ty":3,"ind":7,"nm":"Hand","ip":10,"op":110,"ks":{"a":{"a":0,"k":[5,5,0]},"p":{"a":1,"k":[
		{"t":10,"s":[100,250,0],"o":{"x":0.3,"y":0.1},"i":{"x":0.6,"y":0.95},"to":[40,-30,0],"ti":[-20,10,0]},{"t":61,"s":[220,180,0]}]},"s":{"a":0,"k":[200,200,100]}}},
	{"ty":4,"ind":2,"parent":7,"nm":"Kite","ip":30,"op":90,"st":0,"ks":{"p":{"a":0,"k":[12,-9,0]},"r":{"a":1,"k":[{"t":10,"s":[0],"o":{"x":[0],"y":[0]},"i":{"x":[1],"y":[1]}},{"t":110,"s":[180]}]},"o":{"a":0,"k":50}},"shapes":[
		{"ty":"gr","nm":"Sail","it":[
			{"ty":"sh","ks":{"a":1,"k":[{"t":10,"s":[{"c":true,"v":[[0,-20],[14,0],[0,26],[-14,0]],"i":[[0,0],[0,0],[0,0],[0,0]],"o":[[0,0],[0,0],[0,0],[0,0]]}],"o":{"x":0,"y":0},"i":{"x":1,"y":1}},
				{"t":60,"s":[{"c":true,"v":[[0,-20],[30,4],[0,26],[-14,0]],"i":[[0,0],[0,0],[0,0],[0,0]],"o":[[0,0],[0,0],[0,0],[0,0]]}]}]}},
			{"ty":"st","c":{"a":0,"k":[0,0,0,1]},"w":{"a":0,"k":3},"o":{"a":0,"k":100},"lc":2,"lj":3,"d":[{"n":"d","v":{"a":0,"k":6}},{"n":"o","v":{"a":0,"k":2}}]},
			{"ty":"gf","t":2,"s":{"a":0,"k":[0,0]},"e":{"a":0,"k":[20,10]},"o":{"a":0,"k":100},"g":{"p":3,"k":{"a":0,"k":[0,1,0,0, 0.4,0,1,0, 1,0,0,1, 0,1, 1,0.5]}}},
			{"ty":"tm","s":{"a":0,"k":15},"e":{"a":1,"k":[{"t":10,"s":[20],"h":1},{"t":35,"s":[85]}]},"o":{"a":0,"k":0}},
			{"ty":"rp"},
			{"ty":"tr","p":{"a":0,"k":[2,1]},"a":{"a":0,"k":[0,0]},"s":{"a":0,"k":[100,50]},"r":{"a":0,"k":0},"o":{"a":0,"k":80}}]}]},
	{"ty":0,"ind":3,"parent":2,"nm":"Tail","refId":"tail","w":60,"h":60,"ip":10,"op":110,"st":20,"ks":{"a":{"a":0,"k":[30,0]},"p":{"s":true,"x":{"a":0,"k":4},"y":{"a":1,"k":[{"t":10,"s":[30],"o":{"x":0,"y":0},"i":{"x":1,"y":1}},{"t":60,"s":[50]}]}}}},
	{"ty":5,"ind":4,"nm":"Word","ip":10,"op":110,"ks":{"p":{"a":0,"k":[200,40]}},"t":{"d":{"k":[{"t":0,"s":{"t":"High\rwind","f":"Courier","s":30,"fc":[0.1,0.2,0.3],"j":2,"lh":36,"tr":50}}]}}},
	{"ty":1,"ind":5,"nm":"Sky","ip":10,"op":110,"sw":400,"sh":300,"sc":"#1a2b3c","ks":{"p":{"a":0,"k":[200,150]},"a":{"a":0,"k":[200,150]}},"masksProperties":[{}]}]}`

func TestALottieOfLayersKeysAndShapes(t *testing.T) {
	d, c := readOf(t, kite, 4, 25)
	if d.Frames != 50 {
		t.Errorf("it plays for %d frames", d.Frames)
	}
	if got := strings.Join(d.Missed, "; "); got != "keys between two frames; they are moved to the nearer one; a repeater; the font of a text, replaced by one that ships with Wunderkammer; a mask" {
		t.Error(got)
	}
	hand := byName(t, c, "Hand")
	pins := hand.State("position").Pins
	if len(pins) != 2 || pins[0].Frame != 4 || pins[1].Frame != 30 || pins[0].Value != scene.Pt(-100, -100, 0) || pins[1].Value != scene.Pt(20, -30, 0) ||
		pins[0].Lead != scene.Pt(40, 30, 0) || pins[1].Arrive != scene.Pt(-20, -10, 0) || pins[0].Easing != "cubic 0.3 0.1 0.6 0.95" {
		t.Errorf("the hand moves by %+v", pins)
	}
	sail := byName(t, c, "Kite") // the layer draws one thing, which stands for it, but the sail has a place in it
	if sail.Kind != scene.Null || sail.Parent != hand.ID {
		t.Errorf("the kite is a %s", sail.Kind)
	}
	cloth := byName(t, c, "Sail")
	if cloth.Kind != scene.PathItem || cloth.Parent != sail.ID || cloth.Path.Count() != 4 {
		t.Fatalf("the sail is a %s with %d vertices", cloth.Kind, cloth.Path.Count())
	}
	p := engine.New(c)
	value := func(frame float64, item *scene.Item, key string) scene.Value {
		p.Evaluate(frame)
		return p.Derived(p.Layout.Index(item.ID), key)
	}
	// Half way, 25 frames of the file after its beginning, a vertex is half way.
	if at := value(4+12.5, cloth, "vertex2"); math.Abs(at.At(0)-22) > 1e-6 || math.Abs(at.At(1)+2) > 1e-6 {
		t.Errorf("a vertex is at %v", at)
	}
	// The layer is seen from its frame 30 up to 90: at half its group's 80 %.
	for frame, want := range map[float64]float64{5: 0, 13: 0, 14: 40, 43: 40, 44: 0} {
		if x := value(frame, cloth, "opacity").At(0); math.Abs(x-want) > 1e-9 {
			t.Errorf("at frame %v its opacity is %v", frame, x)
		}
	}
	if x := value(20, cloth, "trimEnd").At(0); x != 85 {
		t.Errorf("it is trimmed up to %v", x)
	}
	if cloth.State("dash").Own != scene.Num(6) || cloth.State("gap").Own != scene.Num(6) || cloth.State("cap").Own != scene.Num(1) || cloth.State("join").Own != scene.Num(2) {
		t.Error("its line is another")
	}
	if len(cloth.Stops) != 1 || cloth.Stops[0].Colour.At(1) != 1 || math.Abs(cloth.Stops[0].Colour.At(3)-0.8) > 1e-9 || cloth.State("gradientTo").Own != scene.Pt(20, -10) {
		t.Errorf("its gradient is %+v", cloth.Stops)
	}
	if r := value(29, sail, "rotation").At(0); math.Abs(r+90) > 1e-9 {
		t.Errorf("it is turned by %v", r)
	}
	// What is in a composition begins with that: the bow, at its layer's 30, in a rectangle that is off its middle.
	bow := byName(t, c, "Bow")
	if bow.Kind != scene.Rectangle || bow.State("pivot").Own != scene.Pt(-3, -2, 0) || bow.State("position").Own != scene.Pt(0, -30, 0) {
		t.Errorf("the bow is a %s about %v at %v", bow.Kind, bow.State("pivot").Own, bow.State("position").Own)
	}
	tail := byName(t, c, "Tail")
	if tail.Parent != sail.ID || value(29, tail, "position").At(1) != -50 || value(29, tail, "position").At(0) != 4 {
		t.Errorf("the tail is at %v", value(29, tail, "position"))
	}
	word := byName(t, c, "Word")
	if word.State("text").Own != scene.Txt("High\nwind") || word.State("font").Own != scene.Num(2) || word.State("alignment").OwnOr(word.Spec("alignment")) != scene.Num(1) {
		t.Errorf("%v, %v, %v", word.State("text").Own, word.State("font").Own, word.State("alignment").Own)
	}
	sky := byName(t, c, "Sky")
	p.Evaluate(4)
	if at := box(p, sky.ID); !near(at, [4]float64{-200, -150, 200, 150}, 1e-9) {
		t.Errorf("the sky takes up %v", at)
	}
}

// Small files that would come to much, and such as are damaged: each is read, or refused, in little time.
func TestHostileAnimations(t *testing.T) {
	file := func(layers, assets string) string {
		return `{"fr":25,"ip":0,"op":50,"w":100,"h":100,"assets":[` + assets + `],"layers":[` + layers + `]}`
	}
	square := `{"ty":4,"ks":{},"shapes":[{"ty":"rc","s":{"k":[5,5]},"p":{"k":[0,0]},"r":{"k":0}},{"ty":"fl","c":{"k":[1,0,0]},"o":{"k":100}}]}`
	comps := `{"id":"c0","layers":[` + square + `]}`
	for k := 1; k < 12; k++ {
		comps += fmt.Sprintf(`,{"id":"c%d","layers":[%s]}`, k, strings.TrimSuffix(strings.Repeat(fmt.Sprintf(`{"ty":0,"refId":"c%d","ks":{}},`, k-1), 9), ","))
	}
	long := `{"ty":4,"ks":{"r":{"a":1,"k":[{"t":-900000,"s":[0],"o":{"x":[0,1],"y":[0,0]},"i":{"x":1,"y":1}},{"t":900000,"s":[9]}]},"o":{"a":1,"k":[{"t":-900000,"s":[0]},{"t":900000,"s":[9]}]}},"shapes":[{"ty":"gr","it":[{"ty":"rc","s":{"k":[5,5]}},{"ty":"fl","c":{"k":[1,0,0]}},{"ty":"tr","o":{"a":1,"k":[{"t":-900000,"s":[0]},{"t":900000,"s":[9]}]}}]}]}`
	for name, c := range map[string]struct{ text, says string }{
		"nothing":               {"", "not a Lottie"},
		"another JSON":          {`{"rows":[1,2]}`, "no size, rate or layers"},
		"no time":               {`{"fr":25,"ip":0,"op":0,"w":1,"h":1,"layers":[{}]}`, "no size, rate or layers"},
		"nothing to be seen":    {file(`{"ty":3,"ks":{}}`, ""), "nothing in the animation can be shown"},
		"a sound":               {file(`{"ty":6,"ks":{}}`, ""), "not understood: a layer that can’t be shown"},
		"compositions of such":  {file(`{"ty":0,"refId":"c11","ks":{}}`, comps), "more than 20000 items"},
		"itself":                {file(`{"ty":0,"refId":"a","ks":{}}`, `{"id":"a","layers":[{"ty":0,"refId":"a","ks":{}}]}`), "nested more than 60 deep"},
		"a circle":              {file(`{"ind":1,"parent":2,"ty":3,"ks":{}},{"ind":2,"parent":1,"ty":3,"ks":{}},`+square, ""), ""},
		"deep groups":           {file(`{"ty":4,"ks":{},"shapes":[`+strings.Repeat(`{"ty":"gr","it":[`, 300)+strings.Repeat(`]}`, 300)+`]}`, ""), "nested more than 60 deep"},
		"deep places":           {file(`{"ty":4,"ks":{"p":`+strings.Repeat(`{"x":`, 9000)+`1`+strings.Repeat(`}`, 9000)+`}}`, ""), "nothing in the animation can be shown"},
		"keys far away":         {file(long+","+long, ""), ""},
		"numbers that are none": {file(`{"ty":4,"ks":{"p":{"k":[1e308,-1e308]},"s":{"k":"x"}}}`, ""), "damaged"},
		"a star of no points":   {file(`{"ty":4,"ks":{},"shapes":[{"ty":"sr","pt":{"k":0},"or":{"k":-4},"ir":{"k":1e300}},{"ty":"sr","pt":{"k":1e9}},{"ty":"fl","c":{"k":[]}}]}`, ""), ""},
		"a chain":               {file(chain(3000)+square, ""), "too long a chain"},
	} {
		began := time.Now()
		d, err := Read([]byte(c.text), nil, 0, 25, ids())
		switch {
		case err != nil && c.says == "":
			t.Errorf("%s: %v", name, err)
		case err == nil && c.says != "" || err != nil && !strings.Contains(err.Error(), c.says):
			t.Errorf("%s: %v, not %q", name, err, c.says)
		case err == nil:
			p := engine.New(composed(t, d))
			p.Evaluate(3)
		}
		if took := time.Since(began); took > 5*time.Second {
			t.Errorf("%s took %v", name, took)
		}
	}
}

func chain(n int) string {
	var b strings.Builder
	for k := range n {
		fmt.Fprintf(&b, `{"ty":3,"ind":%d,"parent":%d,"ks":{}},`, k, k+1)
	}
	return b.String()
}

// Whatever is read makes items that can be kept and worked out.
func FuzzRead(f *testing.F) {
	f.Add([]byte(kite))
	f.Fuzz(func(t *testing.T, file []byte) {
		d, err := Read(file, nil, 3, 25, ids())
		if err != nil {
			return
		}
		p := engine.New(composed(t, d))
		p.Evaluate(7)
		for i := range p.Layout.Items {
			p.Shape(int32(i))
		}
	})
}
