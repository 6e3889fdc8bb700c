package lottie

import (
	"encoding/json"
	"math"
	"testing"

	"wunderkammer/core/engine"
	"wunderkammer/core/format/reel"
	"wunderkammer/core/outline"
	"wunderkammer/core/scene"
)

// file is what the tests read of an animation.
type file struct {
	Width  int     `json:"w"`
	Rate   float64 `json:"fr"`
	Out    int     `json:"op"`
	Assets []struct {
		Layers []layer `json:"layers"`
	} `json:"assets"`
	Layers []layer `json:"layers"`
}

type layer struct {
	Kind      int    `json:"ty"`
	Number    int    `json:"ind"`
	Name      string `json:"nm"`
	From, To  int
	Parent    int                  `json:"parent"`
	Transform map[string]*animated `json:"ks"`
}

type animated struct {
	Animated int             `json:"a"`
	Value    json.RawMessage `json:"k"`
}

type keyed struct {
	Frame int       `json:"t"`
	Value []float64 `json:"s"`
}

func (a *animated) keys(t *testing.T) (out []keyed) {
	if err := json.Unmarshal(a.Value, &out); err != nil {
		t.Fatalf("%v: %s", err, a.Value)
	}
	return out
}

// exported is the file of a composition.
func exported(t *testing.T, c *scene.Composition, o Options) []byte {
	t.Helper()
	r := reel.Record(engine.New(c), 0, c.Frames-1)
	for more := true; more; {
		var err error
		if more, err = r.Step(); err != nil {
			t.Fatal(err)
		}
	}
	data, err := Write(&r.Reel, o)
	if err != nil {
		t.Fatal(err)
	}
	return data
}

func written(t *testing.T, c *scene.Composition, o Options) (f file) {
	t.Helper()
	if err := json.Unmarshal(exported(t, c, o), &f); err != nil {
		t.Fatal(err)
	}
	return f
}

func TestLayersHangOnOneAnotherAndHaveTheirYDown(t *testing.T) {
	c := scene.NewComposition("main", "C")
	c.Frames, c.Rate, c.Width, c.Height = 61, 24, 800, 450
	lamp := &scene.Item{ID: "lamp", Name: "Lamp", Kind: scene.Rectangle}
	lamp.Edit("rotation").Links = []*scene.Link{{ID: "r", Kind: scene.Formula, Gain: 1, Formula: "frame * 13"}}
	lamp.Edit("position").Own = scene.Pt(40, -20, 0)
	glow := &scene.Item{ID: "glow", Name: "Glow", Kind: scene.Ellipse, Parent: "lamp"}
	glow.Edit("position").Own = scene.Pt(0, -37, 0)
	c.Items = []*scene.Item{lamp, glow}
	f := written(t, c, Options{Width: 800, Height: 450, Tolerance: 0.1})
	if f.Width != 800 || f.Rate != 24 || f.Out != 61 || len(f.Layers) != 3 || f.Layers[2].Kind != 1 {
		t.Fatalf("%+v", f)
	}
	front, behind := f.Layers[0], f.Layers[1]
	if front.Name != "Lamp" || front.Parent != behind.Number || behind.Parent != 0 {
		t.Errorf("%s hangs on %d, %s on %d", front.Name, front.Parent, behind.Name, behind.Parent)
	}
	if s := string(front.Transform["p"].Value); s != "[0,-37]" {
		t.Errorf("the lamp is at %s of its glow", s)
	}
	turns := behind.Transform["r"].keys(t)
	if n := len(turns); n != 2 || turns[1].Frame != 60 || math.Abs(turns[1].Value[0]+780) > 0.01 {
		t.Errorf("it turns by %v", turns)
	}
	if at := behind.Transform["p"].keys(t)[0].Value; math.Abs(at[0]-440) > 0.01 || math.Abs(at[1]-(225+20+37)) > 0.01 {
		t.Errorf("the glow begins at %v", at)
	}
	small := written(t, c, Options{Width: 400, Height: 225, Tolerance: 0.1, Clear: true})
	if len(small.Layers) != 1 || small.Layers[0].Kind != 0 || len(small.Assets) != 1 || len(small.Assets[0].Layers) != 2 || string(small.Layers[0].Transform["s"].Value) != "[50,50]" {
		t.Errorf("at half the size: %+v", small)
	}
}

func TestContoursHaveHandlesFromTheirPoints(t *testing.T) {
	p := outline.Path{
		Verbs:  []outline.Verb{outline.MoveTo, outline.CubicTo, outline.QuadTo, outline.LineTo, outline.Close, outline.MoveTo, outline.LineTo},
		Points: []float64{1, 2, 4, 2, 9, 5, 10, 8, 13, 11, 16, 8, 1, 2, -3, 0, 7, 0},
	}
	data, err := json.Marshal(contoursOf(p, 2))
	if err != nil {
		t.Fatal(err)
	}
	want := `[{"c":true,"i":[[0,0],[-1,3],[-2,-2]],"o":[[3,0],[2,-2],[0,0]],"v":[[1,-2],[10,-8],[16,-8]]},` +
		`{"c":false,"i":[[0,0],[0,0]],"o":[[0,0],[0,0]],"v":[[-3,0],[7,0]]}]`
	if string(data) != want {
		t.Errorf("got  %s\nwant %s", data, want)
	}
}
