package reel

import (
	"math"
	"slices"
	"testing"

	"wunderkammer/core/engine"
	"wunderkammer/core/outline"
	"wunderkammer/core/scene"
)

func rowsOf(n int, f func(k int) []float64) [][]float64 {
	out := make([][]float64, n)
	for k := range out {
		out[k] = f(k)
	}
	return out
}

// between is what keys say of a frame.
func between(rows [][]float64, keys []Key, k int) []float64 {
	n := 0
	for n+1 < len(keys) && keys[n+1].Frame <= k {
		n++
	}
	a := keys[n]
	out := slices.Clone(rows[a.Frame])
	if n+1 < len(keys) {
		b := keys[n+1].Frame
		at := a.At(float64(k-a.Frame) / float64(b-a.Frame))
		for c := range out {
			out[c] += (rows[b][c] - out[c]) * at
		}
	}
	return out
}

func TestKeysAreFewAndNowhereFurtherOffThanTheTolerance(t *testing.T) {
	for name, one := range map[string]struct {
		most int
		of   func(k int) []float64
	}{
		"nothing changes": {1, func(int) []float64 { return []float64{7.3, -2} }},
		"evenly":          {2, func(k int) []float64 { return []float64{3.1 * float64(k), 11 - 0.7*float64(k)} }},
		"eased":           {2, func(k int) []float64 { x := float64(k) / 299; return []float64{420 * x * x * (3 - 2*x)} }},
		"a swing":         {40, func(k int) []float64 { return []float64{37 * math.Sin(float64(k)/17.3)} }},
		"a jump":          {4, func(k int) []float64 { return []float64{map[bool]float64{true: 83, false: -4}[k > 131]} }},
	} {
		rows := rowsOf(300, one.of)
		keys := Keys(rows, 0.1)
		if len(keys) > one.most || keys[0].Frame != 0 {
			t.Errorf("%s: %d keys, from %d", name, len(keys), keys[0].Frame)
		}
		for k := range rows {
			for c, x := range between(rows, keys, k) {
				if math.Abs(x-rows[k][c]) > 0.1+1e-9 {
					t.Fatalf("%s, frame %d: %v, want %v", name, k, x, rows[k])
				}
			}
		}
	}
	if keys := Keys(rowsOf(1, func(int) []float64 { return []float64{5} }), 0.1); len(keys) != 1 {
		t.Errorf("of one frame: %v", keys)
	}
}

func TestATransformIsTakenApartAndPutTogether(t *testing.T) {
	put := func(t Turned) Matrix {
		sin, cos := math.Sincos(t.Angle * math.Pi / 180)
		k := math.Tan(t.Shear*math.Pi/180) * t.Scale[1]
		return Matrix{cos * t.Scale[0], sin * t.Scale[0], cos*k - sin*t.Scale[1], sin*k + cos*t.Scale[1], t.Move[0], t.Move[1]}
	}
	for _, m := range []Matrix{
		{1, 0, 0, 1, 0, 0}, {0.6, 0.8, -1.6, 1.2, 31, -7}, {-2, 0.3, 0.4, 0.9, 5, 6}, {0.2, -1.1, -0.7, -0.1, 0, 9}, {0, 0, -0.6, 0.8, 1, 2}, {1.4, 0, 0, 0, 3, 4},
	} {
		got := put(m.Turn(nil))
		for k := range m {
			if math.Abs(got[k]-m[k]) > 1e-9 {
				t.Errorf("%v came back as %v", m, got)
				break
			}
		}
	}
	// Turned on and on, the angle goes on past a whole turn; flipped over, it stays.
	var before *Turned
	for k := range 50 {
		sin, cos := math.Sincos(float64(k) * 31 * math.Pi / 180)
		now := Matrix{cos, sin, -sin, cos, 0, 0}.Turn(before)
		if math.Abs(now.Angle-float64(k)*31) > 1e-6 {
			t.Fatalf("turn %d: %v°", k, now.Angle)
		}
		before = &now
	}
	flat := Matrix{0.02, 0, 0, 1, 0, 0}.Turn(nil)
	over := Matrix{-0.02, 0, 0, 1, 0, 0}.Turn(&flat)
	if math.Abs(over.Angle) > 1e-9 || over.Scale[0] != -0.02 || over.Scale[1] != 1 {
		t.Errorf("flipped over: %+v", over)
	}
}

func TestCornersThatTellNothingAreLeftOut(t *testing.T) {
	bow := func(height float64) outline.Path {
		p := outline.Path{Verbs: []outline.Verb{outline.MoveTo}}
		for k := range 200 {
			x := float64(k) / 199
			p.Points = append(p.Points, 130*x, height*4*x*(1-x))
			if k > 0 {
				p.Verbs = append(p.Verbs, outline.LineTo)
			}
		}
		return p
	}
	all := []outline.Path{bow(0), bow(9), bow(23)}
	lean := lean(all, func(int) float64 { return 1.7 }, 0.05)
	n := len(lean[0].Points) / 2
	if n < 8 || n > 40 || len(lean[0].Verbs) != n {
		t.Fatalf("%d corners of 200", n)
	}
	for k, path := range all {
		for j := range 200 {
			worst := math.Inf(1)
			for i := range n - 1 {
				points := append(slices.Clone(lean[k].Points[2*i:2*i+4]), path.Points[2*j:2*j+2]...)
				worst = min(worst, astray(points, 0, 1, 2))
			}
			if worst*1.7 > 0.05+1e-9 {
				t.Fatalf("path %d, corner %d is %v px off", k, j, worst*1.7)
			}
		}
	}
	curved := []outline.Path{outline.Ellipse(30, 20), outline.Ellipse(31, 20)}
	if kept := simple(curved); &kept[0].Points[0] != &curved[0].Points[0] {
		t.Error("curves were taken apart")
	}
}

// simple leaves out all corners that it may.
func simple(all []outline.Path) []outline.Path {
	return lean(all, func(int) float64 { return 1 }, 5)
}

// swinging is a lamp that turns about its top, with a glow below it, and a moon that does not move; from frame 7 on it has a line.
func swinging() *scene.Composition {
	c := scene.NewComposition("main", "Main")
	c.Frames = 31
	lamp := &scene.Item{ID: "lamp", Name: "Lamp", Kind: scene.Rectangle}
	lamp.Edit("rotation").Links = []*scene.Link{{ID: "r", Kind: scene.Formula, Gain: 1, Formula: "frame * 13"}}
	lamp.Edit("position").Own = scene.Pt(40, -20, 0)
	glow := &scene.Item{ID: "glow", Name: "Glow", Kind: scene.Ellipse, Parent: "lamp"}
	glow.Edit("position").Own = scene.Pt(11, -37, 0)
	moon := &scene.Item{ID: "moon", Name: "Moon", Kind: scene.Ellipse}
	moon.Edit("opacity").Links = []*scene.Link{{ID: "o", Kind: scene.Formula, Gain: 1, Formula: "if(frame < 5, 0, 60)"}}
	c.Items = []*scene.Item{glow, lamp, moon}
	return c
}

func recorded(t *testing.T, c *scene.Composition) *Reel {
	r := Record(engine.New(c), 2, c.Frames-1)
	for more := true; more; {
		var err error
		if more, err = r.Step(); err != nil {
			t.Fatal(err)
		}
	}
	return &r.Reel
}

func TestAReelKnowsWhatGoesAlongAndWhenItIsSeen(t *testing.T) {
	r := recorded(t, swinging())
	var names []string
	for _, p := range r.Parts {
		names = append(names, p.Item.Name)
	}
	if !slices.Equal(names, []string{"Moon", "Glow", "Lamp"}) {
		t.Fatalf("from the hindmost to the foremost: %v", names)
	}
	if got := r.Parts[0].Spans(); !slices.Equal(got, [][2]int{{3, 29}}) {
		t.Errorf("the moon is seen %v", got)
	}
	led := r.Leaders(0.01)
	if led[0].By != -1 || led[1].By != -1 || led[2].By != 1 {
		t.Fatalf("%+v", led)
	}
	if at := led[2].At; math.Abs(at[4]+11) > 1e-9 || math.Abs(at[5]-37) > 1e-9 || math.Abs(at[0]-1) > 1e-9 {
		t.Errorf("the lamp hangs at %v", at)
	}
	if m := r.Parts[2].Motion(0.1); len(m.Angle) != 2 || len(m.Move) != 1 || math.Abs(m.All[28].Angle-m.All[0].Angle-28*13) > 1e-6 {
		t.Errorf("the lamp turns by %d keys, and stands by %d", len(m.Angle), len(m.Move))
	}
}

func TestWhatIsTooMuchForAReelIsSaid(t *testing.T) {
	r := Record(engine.New(swinging()), 0, 30)
	r.looks = MaxLooks - 4
	var err error
	for more := true; more && err == nil; {
		more, err = r.Step()
	}
	if err == nil || !slices.Contains([]int{1, 2, 3}, r.Done()) {
		t.Errorf("%v after %d frames", err, r.Done())
	}
}
