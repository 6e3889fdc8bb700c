package svg

import (
	"encoding/xml"
	"io"
	"regexp"
	"strings"
	"testing"

	"wunderkammer/core/engine"
	"wunderkammer/core/format/reel"
	"wunderkammer/core/scene"
)

func moving(t *testing.T, c *scene.Composition, o Options) string {
	r := reel.Record(engine.New(c), 0, c.Frames-1)
	for more := true; more; {
		var err error
		if more, err = r.Step(); err != nil {
			t.Fatal(err)
		}
	}
	text := string(Moving(&r.Reel, o))
	d := xml.NewDecoder(strings.NewReader(text))
	for {
		if _, err := d.Token(); err == io.EOF {
			return text
		} else if err != nil {
			t.Fatalf("%v in\n%s", err, text)
		}
	}
}

func TestOnlyWhatChangesIsAnimated(t *testing.T) {
	c := scene.NewComposition("main", "C")
	c.Frames, c.Rate = 75, 30
	link := func(formula string) []*scene.Link {
		return []*scene.Link{{ID: "l", Kind: scene.Formula, Gain: 1, Formula: formula}}
	}
	box := &scene.Item{ID: "box", Name: "Box", Kind: scene.Rectangle}
	box.Edit("position").Links = link("[frame * 3, 17]")
	box.Edit("fill").Own = scene.RGBA(1, 0, 0, 1)
	ball := &scene.Item{ID: "ball", Name: "Ball", Kind: scene.Ellipse}
	ball.Edit("opacity").Links = link("if(frame < 40, 0, 35)")
	path := &scene.Item{ID: "line", Name: "Line", Kind: scene.Rectangle}
	path.Edit("strokeWidth").Own = scene.Num(4)
	path.Edit("trimEnd").Links = link("frame * 1.1")
	c.Items = []*scene.Item{box, ball, path}
	text := moving(t, c, Options{Width: 640, Height: 360, Tolerance: 0.1, Loop: 3})
	for _, want := range []string{
		`width="640" height="360" viewBox="0 0 1280 720"`,
		`values="0 17;222 17;222 17" keyTimes="0;0.98667;1" dur="2.5s" repeatCount="3"`,
		`attributeName="visibility" calcMode="discrete" values="hidden;visible;visible" keyTimes="0;0.53333;1"`,
		`opacity="0.35"`, `fill="#ff0000"`,
	} {
		if !strings.Contains(text, want) {
			t.Errorf("%s is missing in\n%s", want, text)
		}
	}
	if n := strings.Count(text, `attributeName="transform"`); n != 1 {
		t.Errorf("%d transforms change", n)
	}
	if n := strings.Count(text, `attributeName="d" calcMode="discrete"`); n != 1 {
		t.Errorf("%d outlines change by whole pieces", n)
	}
	if strings.Contains(text, `attributeName="fill"`) || strings.Contains(text, `attributeName="opacity"`) {
		t.Error("what stays as it is is animated")
	}
	if clear := moving(t, c, Options{Width: 640, Height: 360, Tolerance: 0.1, Clear: true}); strings.Contains(clear, "<rect") || !strings.Contains(clear, `repeatCount="indefinite"`) {
		t.Error("without the background, for ever:\n" + clear)
	}
}

func TestKeysOfGradientsThatTurn(t *testing.T) {
	c := scene.NewComposition("main", "C")
	c.Frames = 50
	sun := &scene.Item{ID: "sun", Name: "Sun", Kind: scene.Ellipse}
	sun.Edit("gradient").Own = scene.Num(2)
	sun.Edit("gradientFrom").Own = scene.Pt(0, 0)
	sun.Edit("gradientWidth").Own = scene.Num(60)
	sun.Edit("gradientTo").Links = []*scene.Link{{ID: "l", Kind: scene.Formula, Gain: 1, Formula: "[cos(frame * 7) * 80, sin(frame * 7) * 80]"}}
	sun.Edit("secondFill").Links = []*scene.Link{{ID: "m", Kind: scene.Formula, Gain: 1, Formula: "rgb(frame / 70, 0, 1)"}}
	c.Items = []*scene.Item{sun}
	text := moving(t, c, Options{Width: 1280, Height: 720, Tolerance: 0.1})
	turn := regexp.MustCompile(`attributeName="gradientTransform" type="rotate" additive="sum" values="0;343;343"`)
	if !turn.MatchString(text) || !strings.Contains(text, `attributeName="stop-color" values="#0000ff;#b300ff;#b300ff"`) {
		t.Error(text)
	}
}

func TestPicturesAreEmbeddedAndAFlipbookTurnsItsPages(t *testing.T) {
	one, two := scene.AssetID(strings.Repeat("a1", 32)), scene.AssetID(strings.Repeat("b2", 32))
	c := scene.NewComposition("main", "C")
	c.Frames = 30
	book := &scene.Item{ID: "book", Name: "Book", Kind: scene.Flipbook, Frames: []scene.Frame{{Asset: one}, {Asset: two, Part: [4]int{3, 5, 20, 10}}}}
	book.Edit("size").Own = scene.Pt(70, 40)
	book.Edit("frame").Links = []*scene.Link{{ID: "l", Kind: scene.Formula, Gain: 1, Formula: "1 + frame / 20"}}
	c.Items = []*scene.Item{book, {ID: "empty", Name: "Empty", Kind: scene.Picture}}
	text := moving(t, c, Options{Width: 1280, Height: 720, Tolerance: 0.1})
	for _, want := range []string{
		`transform="matrix(70 0 0 -40 0 0)"`, `href="asset:` + string(one), `viewBox="3 5 20 10"><image href="asset:` + string(two),
		`values="visible;hidden;hidden" keyTimes="0;0.66667;1"`, `values="hidden;visible;visible" keyTimes="0;0.66667;1"`,
	} {
		if !strings.Contains(text, want) {
			t.Errorf("%s is missing in\n%s", want, text)
		}
	}
	got := string(reel.Embedded([]byte(text), func(id scene.AssetID) ([]byte, string, bool) { return []byte("pixels"), "image/png", id == one }))
	if strings.Contains(got, "asset:") || strings.Count(got, `href="data:image/png;base64,cGl4ZWxz"`) != 1 || strings.Count(got, `href=""`) != 1 {
		t.Error(got)
	}
	p := engine.New(c)
	p.Evaluate(0)
	if bare, _ := Frame(c, p, false); strings.Contains(string(bare), "image") {
		t.Error("a picture is there though none was asked for")
	}
}
