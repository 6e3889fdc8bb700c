package engine

import (
	"testing"

	"wunderkammer/core/scene"
)

// A place that is read in the composition waits for the vertex it is the place of, whatever stands first.
func TestAVertexInTheCompositionIsReadAfterItIsDriven(t *testing.T) {
	c := scene.NewComposition("main", "C")
	reader := &scene.Item{ID: "reader", Name: "Reader", Kind: scene.Rectangle}
	reader.Edit("rotation").Links = []*scene.Link{{ID: "r", Kind: scene.Formula, Gain: 1, Formula: "{@path:@worldVertex2}.x + 0.5 * {@path:@worldVertex2}.y"}}
	path := &scene.Item{ID: "path", Name: "Path", Kind: scene.PathItem, Path: &scene.PathShape{Contours: []scene.Contour{{Vertices: []scene.Vertex{{ID: 1}, {ID: 2, At: [2]float64{30, 0}}}}}}}
	path.Edit("position").Own = scene.Pt(-110, 40, 0)
	path.Edit(scene.VertexKey(2)).Links = []*scene.Link{{ID: "v", Kind: scene.Formula, Gain: 1, Formula: "[{@rig:rotation} * 3, {@rig:rotation} - 4]"}}
	rig := &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null}
	rig.Edit("rotation").Links = []*scene.Link{{ID: "f", Kind: scene.Formula, Gain: 1, Formula: "frame + 7"}}
	c.Items = []*scene.Item{reader, path, rig}
	p := New(c)
	for _, frame := range []float64{5, 31, 2} {
		p.Evaluate(frame)
		turn := frame + 7
		if got, want := p.Value(ref("reader", "rotation")).At(0), (-110+3*turn)+0.5*(40+turn-4); got != want {
			t.Errorf("at frame %v it is %v, not %v", frame, got, want)
		}
	}
}

// A text is passed on as it is, whatever gain and offset its link has from before.
func TestATextIsNotMultiplied(t *testing.T) {
	c := scene.NewComposition("main", "C")
	from := &scene.Item{ID: "from", Name: "From", Kind: scene.TextItem}
	from.Edit("text").Own = scene.Txt("Ahoy")
	other := &scene.Item{ID: "other", Name: "Other", Kind: scene.TextItem}
	other.Edit("text").Own = scene.Txt("Hold fast")
	to := &scene.Item{ID: "to", Name: "To", Kind: scene.TextItem}
	to.Edit("text").Links = []*scene.Link{{ID: "l", Kind: scene.Follow, Source: ref("from", "text"), Gain: 3, Offset: 1}}
	c.Items = []*scene.Item{to, other, from}
	p := New(c)
	p.Evaluate(0)
	if got := p.Value(ref("to", "text")).Str(); got != "Ahoy" {
		t.Errorf("it says %q", got)
	}
}
