package link

import (
	"fmt"
	"strings"

	"wunderkammer/core/scene"
)

// Fit is how a source of one type fills a target of another.
type Fit struct {
	Gain float64
	// Parts lists, for each component of the target, the component of the source that fills it;
	// -1 leaves the component at its own value.
	Parts []int
	// Note says in plain words what is left out, if anything.
	Note string
}

// fitKey names a pair of shapes.
type fitKey struct{ source, target scene.Type }

// fits lists every pair of whole values that can be linked. A number, switch or choice fills every
// component of what it drives; three components into two lose z, two into three leave z alone.
var fits = func() map[fitKey]Fit {
	m := map[fitKey]Fit{
		{scene.Point2, scene.Point2}: {Parts: []int{0, 1}},
		{scene.Point2, scene.Point3}: {Parts: []int{0, 1, -1}, Note: "z keeps its own value"},
		{scene.Point3, scene.Point3}: {Parts: []int{0, 1, 2}},
		{scene.Point3, scene.Point2}: {Parts: []int{0, 1}, Note: "z of the source is not used"},
		{scene.Colour, scene.Colour}: {Parts: []int{0, 1, 2, 3}},
		{scene.Text, scene.Text}:     {Parts: []int{0}},
	}
	for _, from := range []scene.Type{scene.Number, scene.Switch, scene.Choice} {
		for _, to := range []scene.Type{scene.Number, scene.Switch, scene.Choice, scene.Point2, scene.Point3, scene.Colour} {
			m[fitKey{from, to}] = Fit{Parts: make([]int, to.Size())}
		}
	}
	return m
}()

// Pairs lists, for each type of a source, the types of targets that a kind of link takes from it to, whole.
func (k *Kind) Pairs() map[scene.Type][]scene.Type {
	pairs := map[scene.Type][]scene.Type{}
	if !k.Sourced {
		return pairs
	}
	for _, source := range scene.Types() {
		for _, target := range scene.Types() {
			if _, err := k.Fits(&scene.Spec{Type: source}, "", &scene.Spec{Type: target}, ""); err == nil {
				pairs[source] = append(pairs[source], target)
			}
		}
	}
	return pairs
}

// part returns the type and unit of a whole property or of one of its components.
func part(s *scene.Spec, component string) (scene.Type, bool) {
	if _, ok := s.Type.Component(component); !ok && !s.Type.Worked(component) {
		return "", false
	}
	if component != "" {
		return scene.Number, true
	}
	return s.Type, true
}

// parts returns the types of the source and of the target of a link, or of the component of them that is named.
func parts(source *scene.Spec, sourceComponent string, target *scene.Spec, targetComponent string) (from, to scene.Type, err error) {
	if source.Type.Worked(sourceComponent) {
		return "", "", fmt.Errorf("%s of %s is computed from its other components; read it in a formula", sourceComponent, source.Name)
	}
	from, ok := part(source, sourceComponent)
	if !ok {
		return "", "", noPart(source, sourceComponent)
	}
	to, ok = part(target, targetComponent)
	if !ok {
		return "", "", noPart(target, targetComponent)
	}
	return from, to, nil
}

func noPart(s *scene.Spec, component string) error {
	return fmt.Errorf("%s has no component named %q", s.Name, component)
}

func readOnly(target *scene.Spec) error {
	return fmt.Errorf("%s is read-only", target.Name)
}

// oneOf says which components of a type could be taken in place of all of it.
func oneOf(t scene.Type) string {
	return "; use one of its components: " + strings.Join(t.Components(), ", ")
}

// FitOf returns how the source (or one component of it) fills the target (or one component of
// it), with the gain that mends their units; or an error that says what would fit.
func FitOf(source *scene.Spec, sourceComponent string, target *scene.Spec, targetComponent string) (Fit, error) {
	from, to, err := parts(source, sourceComponent, target, targetComponent)
	if err != nil {
		return Fit{}, err
	}
	fit, ok := fits[fitKey{from, to}]
	if !ok {
		return Fit{}, misfit(source, from, target, to)
	}
	if target.ReadOnly {
		return Fit{}, readOnly(target)
	}
	fit.Gain = 1
	if from.Size() == 1 && to == scene.Point3 && target.Unit == scene.Pixels {
		fit.Note = "it drives x, y and z; to drive one of them, drop the cable on that component"
	}
	if from == scene.Switch && target.Unit == scene.Percent {
		fit.Gain = 100 // on is the whole
	}
	return fit, nil
}

func misfit(source *scene.Spec, from scene.Type, target *scene.Spec, to scene.Type) error {
	hint := ""
	if from.Size() > 1 && to.Size() == 1 && to != scene.Text {
		hint = oneOf(from)
	}
	return fmt.Errorf("%s is a %s and can't drive %s, which is a %s%s", source.Name, from.Word(), target.Name, to.Word(), hint)
}

// Range returns the gain and offset that lead the range of a source's widget over that of a target's;
// ok is false where one of them has none.
func Range(source, target *scene.Spec) (gain, offset float64, ok bool) {
	from, to := source.SoftMax-source.SoftMin, target.SoftMax-target.SoftMin
	if from <= 0 || to <= 0 {
		return 1, 0, false
	}
	gain = to / from
	return gain, target.SoftMin - float64(source.SoftMin*gain), true
}

// Mismatch says what does not go together between a source and a target whose numbers are passed on
// as they are: their units, or ranges of which one is a hundred times the other. Empty: nothing.
func Mismatch(source, target *scene.Spec) string {
	if source.Type != scene.Number || target.Type != scene.Number {
		return ""
	}
	a, b := source.Unit, target.Unit
	switch {
	case a != b && a != scene.Plain && b != scene.Plain:
		return fmt.Sprintf("%s is in %s, but %s is in %s", source.Name, a, target.Name, b)
	case b == scene.Percent && source.SoftMax > 0 && source.SoftMax <= 1, a == scene.Percent && target.SoftMax > 0 && target.SoftMax <= 1:
		return fmt.Sprintf("%s runs from %s to %s and %s from %s to %s", source.Name, scene.Exact(source.SoftMin), scene.Exact(source.SoftMax), target.Name, scene.Exact(target.SoftMin), scene.Exact(target.SoftMax))
	}
	return ""
}
