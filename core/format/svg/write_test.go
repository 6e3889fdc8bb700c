package svg

import (
	"encoding/xml"
	"io"
	"strings"
	"testing"

	"wunderkammer/core/engine"
	"wunderkammer/core/scene"
)

func TestFrameDrawsWhatIsInOutputFromBackToFront(t *testing.T) {
	c := scene.NewComposition("main", "C")
	item := func(id scene.ID, kind scene.Kind) *scene.Item {
		return &scene.Item{ID: id, Name: string(id), Kind: kind}
	}
	box, ball, null, hidden, out, word := item("box", scene.Rectangle), item("ball", scene.Ellipse), item("null", scene.Null), item("hid", scene.Ellipse), item("out", scene.Ellipse), item("word", scene.TextItem)
	box.Edit("fill").Own = scene.RGBA(1, 0, 0, 0.5)
	box.Edit("strokeWidth").Own = scene.Num(3)
	box.Edit("opacity").Own = scene.Num(25)
	box.Edit("position").Own = scene.Pt(10, 20, 0)
	ball.Edit("fill").Own = scene.RGBA(0, 1, 0, 1)
	hidden.Hidden, out.NotInOutput = true, true
	c.Items = []*scene.Item{box, ball, null, hidden, out, word}
	p := engine.New(c)
	p.Evaluate(0)
	drawn, truncated := Frame(c, p, true)
	picture := string(drawn)
	if truncated {
		t.Error("a small picture ends early")
	}
	if n := strings.Count(picture, "<path"); n != 3 {
		t.Errorf("%d paths, want box, ball and word:\n%s", n, picture)
	}
	if strings.Index(picture, "#00ff00") > strings.Index(picture, "#ff0000") {
		t.Error("the first item of the tree is not in front")
	}
	for _, want := range []string{`transform="matrix(1 0 0 1 10 20)"`, `fill="#ff0000" fill-opacity="0.5"`, `stroke-width="3"`, `opacity="0.25"`, `viewBox="0 0 1280 720"`} {
		if !strings.Contains(picture, want) {
			t.Errorf("%s is missing", want)
		}
	}
	d := xml.NewDecoder(strings.NewReader(picture))
	for {
		if _, err := d.Token(); err == io.EOF {
			break
		} else if err != nil {
			t.Fatal(err)
		}
	}
}

// A radial gradient is a circle of radius 1, led onto the axis and the width across it, without being mirrored.
func TestARadialGradientIsWrittenAsItLies(t *testing.T) {
	c := scene.NewComposition("main", "C")
	sun := &scene.Item{ID: "sun", Name: "Sun", Kind: scene.Ellipse}
	for key, v := range map[string]scene.Value{"gradient": scene.Num(2), "gradientFrom": scene.Pt(7, -3), "gradientTo": scene.Pt(47, 17), "gradientWidth": scene.Num(60)} {
		sun.Edit(key).Own = v
	}
	c.Items = []*scene.Item{sun}
	p := engine.New(c)
	p.Evaluate(0)
	drawn, _ := Frame(c, p, true)
	if want := `<radialGradient id="g1" gradientUnits="userSpaceOnUse" cx="0" cy="0" r="1" gradientTransform="matrix(40 20 -12 24 7 -3)">`; !strings.Contains(string(drawn), want) {
		t.Errorf("%s is missing:\n%s", want, drawn)
	}
}
