package svg

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"wunderkammer/core/engine"
	"wunderkammer/core/scene"
)

// ids makes ids that count up.
func ids() func() scene.ID {
	n := 0
	return func() scene.ID { n++; return scene.ID(fmt.Sprintf("i%d", n)) }
}

func read(t *testing.T, text string) *Drawing {
	t.Helper()
	d, err := Read([]byte(text), ids())
	if err != nil {
		t.Fatal(err)
	}
	c := scene.NewComposition("main", "C")
	c.Items = d.Items
	if err := (&scene.Project{ID: "p", Name: "P", Compositions: []*scene.Composition{c}}).Check(); err != nil {
		t.Fatal(err)
	}
	return d
}

func svgOf(inside string) string {
	return `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 200 100">` + inside + `</svg>`
}

// find returns the item with the name, and a plan of the drawing.
func find(t *testing.T, d *Drawing, name string) (*scene.Item, *engine.Plan) {
	t.Helper()
	c := scene.NewComposition("main", "C")
	c.Items = d.Items
	p := engine.New(c)
	p.Evaluate(0)
	for _, item := range d.Items {
		if item.Name == name {
			return item, p
		}
	}
	t.Fatalf("there is no item %q", name)
	return nil, nil
}

func TestNamesAndGroupingAreKept(t *testing.T) {
	d := read(t, svgOf(`<g id="crane"><g id="arm"><title>The arm</title><rect id="beam" width="10" height="4"/><circle id="hook" r="3"/></g><rect width="5" height="5"/></g>`))
	var tree []string
	byID := map[scene.ID]string{}
	for _, item := range d.Items {
		byID[item.ID] = item.Name
		tree = append(tree, byID[item.Parent]+"/"+item.Name)
	}
	if got := strings.Join(tree, " "); got != "/crane crane/Rectangle crane/The arm The arm/hook The arm/beam" {
		t.Errorf("the tree is %s", got)
	}
}

// Where things stand, seen from outside: the box of every outline in the composition.
func TestPlacesThroughTransforms(t *testing.T) {
	for what, c := range map[string]struct {
		svg  string
		want [4]float64 // left, bottom, right, top about the middle of 200 × 100
	}{
		"rect":          {`<rect id="a" x="10" y="20" width="40" height="30"/>`, [4]float64{-90, 0, -50, 30}},
		"translate":     {`<g transform="translate(5 10)"><rect id="a" width="20" height="10" transform="scale(2)"/></g>`, [4]float64{-95, 20, -55, 40}},
		"rotate":        {`<rect id="a" x="100" y="50" width="20" height="10" transform="rotate(90 100 50)"/>`, [4]float64{-10, -20, 0, 0}},
		"skew":          {`<g transform="skewX(45)"><rect id="a" width="20" height="10"/></g>`, [4]float64{-100, 40, -70, 50}},
		"mirror":        {`<g transform="matrix(-1 0 0 1 100 0)"><path id="a" d="M0 0H20V10H0Z"/></g>`, [4]float64{-20, 40, 0, 50}},
		"circle":        {`<circle id="a" cx="100" cy="50" r="10"/>`, [4]float64{-10, -10, 10, 10}},
		"ellipse":       {`<ellipse id="a" cx="0" cy="0" rx="10" ry="5"/>`, [4]float64{-110, 45, -90, 55}},
		"line":          {`<line id="a" x1="0" y1="0" x2="10" y2="10" stroke="#000"/>`, [4]float64{-100, 40, -90, 50}},
		"polygon":       {`<polygon id="a" points="0,0 10,0 10 10"/>`, [4]float64{-100, 40, -90, 50}},
		"relative path": {`<path id="a" d="m10 10 10 0v10h-10z"/>`, [4]float64{-90, 30, -80, 40}},
		"smooth curves": {`<path id="a" d="M0 50C10 30 30 30 40 50S70 70 80 50"/>`, [4]float64{-100, -15, -20, 15}},
		"quadratic":     {`<path id="a" d="M0 0Q10 20 20 0T40 0"/>`, [4]float64{-100, 40, -60, 60}},
		"arc":           {`<path id="a" d="M0 50A10 10 0 0 1 20 50A10 10 0 010 50"/>`, [4]float64{-100, -10, -80, 10}},
		"scaled arc":    {`<path id="a" d="M0 50A1 1 0 0 1 20 50"/>`, [4]float64{-100, 0, -80, 10}},
		"use":           {`<defs><rect id="a" width="10" height="10"/></defs><use id="u" xlink:href="#a" x="50" y="20"/>`, [4]float64{-50, 20, -40, 30}},
		"nested svg":    {`<svg x="100" y="0" width="50" height="50" viewBox="0 0 10 10"><rect id="a" width="10" height="10"/></svg>`, [4]float64{0, 0, 50, 50}},
	} {
		item, p := find(t, read(t, svgOf(c.svg)), "a")
		i := p.Layout.Index(item.ID)
		m := p.World(i)
		path := p.Shape(i)
		got := [4]float64{math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)}
		for _, l := range path.Lines() {
			for k := 0; k < len(l.Points); k += 2 {
				at := m.Apply([3]float64{l.Points[k], l.Points[k+1]})
				got = [4]float64{min(got[0], at[0]), min(got[1], at[1]), max(got[2], at[0]), max(got[3], at[1])}
			}
		}
		for k := range got {
			if math.Abs(got[k]-c.want[k]) > 0.2 {
				t.Errorf("%s: the box is %.2f, want %v", what, got, c.want)
				break
			}
		}
	}
}

func TestPaint(t *testing.T) {
	for what, c := range map[string]struct{ attributes, key, want string }{
		"none at all":   {``, "fill", "[0, 0, 0, 1]"},
		"a name":        {`fill="red"`, "fill", "[1, 0, 0, 1]"},
		"short hex":     {`fill="#0f0"`, "fill", "[0, 1, 0, 1]"},
		"rgb":           {`fill="rgb(0, 0, 255)"`, "fill", "[0, 0, 1, 1]"},
		"percent":       {`fill="rgb(100%,0%,0%)"`, "fill", "[1, 0, 0, 1]"},
		"hsl":           {`fill="hsl(120, 100%, 50%)"`, "fill", "[0, 1, 0, 1]"},
		"opacity":       {`fill="#00f" fill-opacity=".5"`, "fill", "[0, 0, 1, 0.5]"},
		"none":          {`fill="none"`, "fill", "[0, 0, 0, 0]"},
		"style":         {`fill="red" style="fill:#00f"`, "fill", "[0, 0, 1, 1]"},
		"class":         {`class="x blue"`, "fill", "[0, 0, 1, 1]"},
		"current":       {`color="lime" fill="currentColor"`, "fill", "[0, 1, 0, 1]"},
		"element":       {`opacity="0.25"`, "opacity", "25"},
		"stroke":        {`stroke="red" stroke-width="3"`, "strokeWidth", "3"},
		"dash":          {`stroke="red" stroke-dasharray="6 2"`, "gap", "2"},
		"join":          {`stroke="red" stroke-linejoin="bevel"`, "join", "2"},
		"gradient":      {`fill="url(#g)"`, "gradient", "1"},
		"its start":     {`fill="url(#g)"`, "gradientFrom", "[-10, 5]"},
		"its end":       {`fill="url(#g)"`, "gradientTo", "[10, 5]"},
		"its last":      {`fill="url(#g)"`, "secondFill", "[0, 0, 1, 1]"},
		"radial":        {`fill="url(#r)"`, "gradientTo", "[10, 0]"},
		"radial, flat":  {`fill="url(#r)"`, "gradientWidth", "50"},
		"missing paint": {`fill="url(#nowhere) lime"`, "fill", "[0, 1, 0, 1]"},
	} {
		item, _ := find(t, read(t, svgOf(`<style>/* . */ .blue, .b { fill: #00f; }</style><defs>
			<linearGradient id="base"><stop offset="0" stop-color="red"/><stop offset=".4" stop-color="lime"/><stop offset="100%" style="stop-color:blue"/></linearGradient>
			<linearGradient id="g" xlink:href="#base"/><radialGradient id="r" href="#base"/></defs>
			<rect id="a" width="20" height="10" `+c.attributes+`/>`)), "a")
		if got := item.State(c.key).OwnOr(item.Spec(c.key)).String(); got != c.want {
			t.Errorf("%s: %s is %s, want %s", what, c.key, got, c.want)
		}
	}
}

// A gradient whose focus lies beside its centre, to either side, or that goes on beyond its end is told; one in which both are as
// they would be anyhow isn't.
func TestWhatOfAGradientIsLeftOutIsTold(t *testing.T) {
	for attributes, want := range map[string]string{
		`fx="0.3"`: "focus", `fy="0.7"`: "focus", `cx="0.4" fx="0.4" cy="0.3" fy="0.3"`: "", `spreadMethod="reflect"`: "mirrored", `spreadMethod="pad"`: "", ``: "",
	} {
		d := read(t, svgOf(`<radialGradient id="r" `+attributes+`><stop offset="0" stop-color="red"/><stop offset="1" stop-color="blue"/></radialGradient><rect id="a" width="20" height="10" fill="url(#r)"/>`))
		if said := strings.Join(d.Missed, "\n"); (want == "") != (said == "") || !strings.Contains(said, want) {
			t.Errorf("of a gradient with %s it is told: %q", attributes, said)
		}
	}
}

func TestWhatIsNotUnderstoodIsListed(t *testing.T) {
	d := read(t, svgOf(`<script>alert(1)</script><image href="https://example.org/x.png"/><rect id="ok" width="5" height="5" filter="url(#f)"/>
		<rect width="5" height="5" filter="url(#f)"/><use href="other.svg#a"/><use href="#nowhere"/><g id="loop"><use href="#loop"/></g><foreignObject/><animate/><text x="3">Ahoy</text>`))
	all := strings.Join(d.Missed, "\n")
	for _, want := range []string{"a script", "a picture embedded", "a filter, 2 times", "outside of the file", "not in the file", "a reference to itself", "content of another kind", "an animation", "the font of a text"} {
		if !strings.Contains(all, want) {
			t.Errorf("%q is missing in:\n%s", want, all)
		}
	}
	if word, _ := find(t, d, "Text"); word.Path.Count() < 20 {
		t.Error("the text has no outlines")
	}
}

func TestFilesThatCannotBeRead(t *testing.T) {
	bomb := `<?xml version="1.0"?><!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]><svg xmlns="http://www.w3.org/2000/svg"><text>&b;</text></svg>`
	outside := `<?xml version="1.0"?><!DOCTYPE svg [<!ENTITY a SYSTEM "file:///etc/passwd">]><svg xmlns="http://www.w3.org/2000/svg"><text>&a;</text></svg>`
	for says, data := range map[string]string{
		"the file is empty":         " \n",
		"not an SVG drawing":        `<html><body/></html>`,
		"not valid SVG: line 1":     `<svg><rect`,
		"its own entities":          bomb,
		"its own entities, which":   outside,
		"more than 20000 elements":  svgOf(strings.Repeat(`<rect width="1" height="1"/>`, 100000)),
		"nested more than 200 deep": svgOf(strings.Repeat("<g>", 5000) + strings.Repeat("</g>", 5000)),
		"nothing in the drawing":    svgOf(``),
		"not understood: a script":  svgOf(`<script>1</script>`),
		"save it as UTF-8":          `<?xml version="1.0" encoding="UTF-16"?>` + svgOf(``),
		"more than 32 MB":           svgOf(strings.Repeat(" ", MaxBytes)),
		"line 1: invalid UTF-8":     "\xff\xfe\x00junk",
		"not valid SVG: line 1:":    "<svg>\xff\xfe</svg>",
	} {
		d, err := Read([]byte(data), ids())
		if err == nil || !strings.Contains(err.Error(), strings.TrimSuffix(says, ",")) {
			t.Errorf("%v (%v), want %q", err, d != nil, says)
		}
	}
}

// A few elements that repeat each other must not fill the memory.
func TestRepetitionsAreBounded(t *testing.T) {
	var b strings.Builder
	b.WriteString(`<defs><rect id="r0" width="1" height="1"/>`)
	for i := 1; i < 12; i++ {
		fmt.Fprintf(&b, `<g id="r%d">%s</g>`, i, strings.Repeat(fmt.Sprintf(`<use href="#r%d"/>`, i-1), 10))
	}
	b.WriteString(`</defs><use href="#r11"/>`)
	d, err := Read([]byte(svgOf(b.String())), ids())
	if err == nil && len(d.Items) > 3*MaxElements {
		t.Errorf("%d items", len(d.Items))
	}
}

func FuzzRead(f *testing.F) {
	f.Add(svgOf(`<g transform="rotate(3)"><path d="M0 0a1 1 0 010 5zL1e9-3" stroke-dasharray="1"/></g>`))
	f.Add(svgOf(`<text font-size="1e300"><tspan dx="3">a</tspan></text><use href="#a"/>`))
	f.Fuzz(func(t *testing.T, text string) {
		d, err := Read([]byte(text), ids())
		if err != nil {
			return
		}
		for _, item := range d.Items {
			if err := item.Check(); err != nil {
				t.Errorf("%s: %v", item.Name, err)
			}
		}
	})
}
