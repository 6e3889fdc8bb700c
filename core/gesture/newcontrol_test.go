package gesture_test

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"wunderkammer/core/change"
	"wunderkammer/core/engine"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/scene"
)

// same reports whether two values are the same but for rounding.
func same(a, b scene.Value) bool {
	if a.Len() != b.Len() || a.Str() != b.Str() {
		return false
	}
	for k := range a.Len() {
		if math.Abs(a.At(k)-b.At(k)) > 1e-9*(1+math.Abs(b.At(k))) {
			return false
		}
	}
	return true
}

// everyProperty calls with every property, and component of one, of every kind of item that can be driven, and with what makes an item
// in which that has an odd value.
func everyProperty(on func(k scene.KindInfo, spec *scene.Spec, component string, made func() *scene.Item)) {
	for _, k := range scene.Kinds {
		if k.Kind == scene.Copy {
			continue
		}
		model := &scene.Item{ID: "it", Name: "It", Kind: k.Kind}
		if k.Kind == scene.PathItem {
			model.Path = &scene.PathShape{Contours: []scene.Contour{{Vertices: []scene.Vertex{{ID: 1}, {ID: 2, At: [2]float64{70, 3}}}}}}
		}
		if k.Kind == scene.MeshItem {
			model.Mesh = scene.Gem()
		}
		if k.Kind == scene.Piece {
			model.Piece = &scene.Shown{Composition: "room"}
		}
		for _, spec := range model.Specs() {
			if spec.ReadOnly {
				continue
			}
			for _, component := range append(slices.Clone(spec.Type.Components()), "") {
				on(k, spec, component, func() *scene.Item {
					item := model.Clone()
					if spec.Type == scene.Number && spec.SoftMax > spec.SoftMin {
						item.Edit(spec.Key).Own = scene.Num(spec.Limit(spec.SoftMin + math.Floor((spec.SoftMax-spec.SoftMin)*0.37)))
					}
					return item
				})
			}
		}
	}
}

// Whatever kind of control is made for whatever property, at once with its link and as one step: the picture stays as it is. The
// one that is proposed suits it: no problem comes with it, and moving it moves the property.
func TestANewControlKeepsThePicture(t *testing.T) {
	if testing.Short() {
		t.Skip("it takes its time")
	}
	tried := 0
	everyProperty(func(k scene.KindInfo, spec *scene.Spec, component string, made func() *scene.Item) {
		for _, widget := range []scene.Widget{"", scene.Fader, scene.DialWidget, scene.ColourWidget, scene.PointWidget, scene.SwitchWidget, scene.ChoiceWidget, scene.TextWidget} {
			item := made()
			b := newBench(t, item)
			ref := scene.Ref{Item: "it", Property: spec.Key, Component: component}
			plan := engine.New(b.c)
			plan.Evaluate(0)
			c := &gesture.Context{Composition: b.c, Planned: plan, NewID: func() scene.ID { b.n++; return scene.ID(fmt.Sprint("m", b.n)) }}
			g := &wiring.AddControl{Control: scene.Control{Kind: widget}, Drives: []scene.Ref{ref}}
			if widget == "" {
				control, err := wiring.ControlFor(c, ref)
				if err != nil {
					t.Fatalf("%s of %s: %v", spec.Name, k.Name, err)
				}
				g.Control = *control
			}
			before := plan.Value(scene.Ref{Item: "it", Property: spec.Key})
			r, err := g.Do(c)
			if err != nil {
				if widget == "" {
					t.Errorf("%s.%s of %s: the control that is proposed can't drive it: %v", spec.Name, component, k.Name, err)
				}
				continue
			}
			inverse, _, err := change.Apply(b.p, r.Ops)
			if err != nil {
				t.Fatalf("%s of %s: %v", spec.Name, k.Name, err)
			}
			tried++
			after := engine.New(b.c)
			after.Evaluate(0)
			if got := after.Value(scene.Ref{Item: "it", Property: spec.Key}); !same(got, before) {
				t.Errorf("%s.%s of %s by a %s: %v, was %v", spec.Name, component, k.Name, widget, got, before)
			}
			if _, _, err := change.Apply(b.p, inverse); err != nil || len(b.c.Items) != 1 {
				t.Errorf("one step does not take it back: %v", err)
			}
		}
	})
	if tried < 1000 {
		t.Errorf("%d pairs were tried", tried)
	}
}

// The control that is proposed has the kind, the unit and the range of the property.
func TestAControlSuitsItsProperty(t *testing.T) {
	b := newBench(t, item("box", scene.Rectangle, 11, 7, 100), &scene.Item{ID: "word", Name: "Word", Kind: scene.TextItem})
	plan := engine.New(b.c)
	plan.Evaluate(0)
	c := &gesture.Context{Composition: b.c, Planned: plan, NewID: func() scene.ID { return "made" }}
	for of, want := range map[scene.Ref]scene.Control{
		ref("box", "fill"):     {Kind: scene.ColourWidget},
		ref("box", "position"): {Kind: scene.PointWidget},
		ref("box", "rotation"): {Kind: scene.DialWidget},
		ref("box", "opacity"):  {Kind: scene.Fader, Unit: scene.Percent},
		ref("word", "text"):    {Kind: scene.TextWidget},
		ref("word", "font"):    {Kind: scene.ChoiceWidget},
		{Item: "box", Property: "position", Component: "x"}: {Kind: scene.Fader, Unit: scene.Pixels},
		ref("box", "strokeWidth"):                           {Kind: scene.Fader, Unit: scene.Pixels},
	} {
		got, err := wiring.ControlFor(c, of)
		if err != nil || got.Kind != want.Kind || got.Unit != want.Unit || !same(got.Default, plan.Value(of)) || got.SoftMin > got.SoftMax {
			t.Errorf("%v: %+v %v", of, got, err)
		}
	}
}

// A number that drives the hue, the saturation or the lightness of a colour leaves the colour as it is.
func TestANumberOnAHueKeepsTheColour(t *testing.T) {
	for _, part := range scene.Hues {
		target := ref("a", "fill")
		target.Component = part
		for _, by := range []gesture.Gesture{
			&wiring.Link{Source: ref("rig", "go"), Targets: []scene.Ref{target}},
			&wiring.AddControl{Item: "rig", Control: scene.Control{Kind: scene.Fader}, Drives: []scene.Ref{target}},
		} {
			b := desk(t)
			was := scene.RGBA(0.85, 0.64, 0.3, 0.7)
			b.c.Item("a").Edit("fill").Own = was
			b.set(ref("rig", "go"), 37)
			b.do(by, 0)
			plan := b.context(0).Plan()
			for k := range 4 {
				if got := plan.Value(ref("a", "fill")).At(k); math.Abs(got-was.At(k)) > 1e-9 {
					t.Errorf("by its %s, with %T, the colour becomes %s", part, by, plan.Value(ref("a", "fill")))
					break
				}
			}
		}
	}
}

// A link that is made without a word about its kind keeps the picture, whatever drives whatever: a control that drives nothing yet, or
// a property of another sort.
func TestANewLinkKeepsThePicture(t *testing.T) {
	if testing.Short() {
		t.Skip("it takes its time")
	}
	tried := 0
	everyProperty(func(k scene.KindInfo, spec *scene.Spec, component string, made func() *scene.Item) {
		sources := []scene.Ref{{Item: "from", Property: "opacity"}, {Item: "from", Property: "cap"}, {Item: "from", Property: "lit"}, {Item: "from", Property: "position", Component: "x"}, {Item: "from", Property: "rotation"}}
		for _, kind := range scene.ControlKinds {
			w := kind.Kind
			sources = append(sources, scene.Ref{Item: "from", Property: "c" + string(w)})
		}
		for _, source := range sources {
			item := made()
			from := &scene.Item{ID: "from", Name: "From", Kind: scene.Star}
			for _, kind := range scene.ControlKinds {
				control := &scene.Control{ID: scene.ID("c" + string(kind.Kind)), Name: string(kind.Kind), Kind: kind.Kind}
				start := kind.Begins
				control.SoftMin, control.SoftMax, control.Options, control.Default = start.SoftMin, start.SoftMax, start.Options, start.Default
				from.Controls = append(from.Controls, control)
			}
			from.Edit("opacity").Own, from.Edit("rotation").Own, from.Edit("position").Own, from.Edit("cswitch").Own = scene.Num(13), scene.Num(71), scene.Pt(-29, 17, 3), scene.On(false)
			to := scene.Ref{Item: "it", Property: spec.Key, Component: component}
			if source.Component == component && (source.Property == spec.Key || spec.Key == "target") || source.Property == spec.Key && component == "" {
				continue // it was asked to follow
			}
			b := newBench(t, item, from)
			whole := scene.Ref{Item: "it", Property: spec.Key}
			before := b.context(0).Plan().Value(whole)
			if _, err := b.try(&wiring.Link{Source: source, Targets: []scene.Ref{to}}, 0); err != nil {
				continue
			}
			tried++
			if got := b.context(0).Plan().Value(whole); !same(got, before) {
				t.Errorf("%s.%s of %s by %s: %v, was %v", spec.Name, component, k.Name, source.Property, got, before)
			}
		}
	})
	if tried < 2000 {
		t.Errorf("%d pairs were tried", tried)
	}
}
