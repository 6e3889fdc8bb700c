// Package ask answers what somebody outside asks of a composition by names: the values of properties and formulas at frames, and the
// controls, which can be set.
package ask

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"wunderkammer/core/engine"
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// Question is a property or a formula whose value is asked for.
type Question struct {
	Name  string     // as it was asked; of several that a pattern takes, the name of each
	Type  scene.Type // of its values
	Unit  scene.Unit // of a property
	ref   scene.Ref  // empty for a formula
	worth func(frames ...float64) []scene.Value
}

// At returns the value at the frame at which the plan was evaluated last.
func (q Question) At(frame float64) scene.Value { return q.worth(frame)[0] }

// Over returns the values of some questions at frames: of each question a value for each frame, absent where it is no number.
func Over(plan *engine.Plan, questions []Question, frames []float64) [][]scene.Value {
	out := make([][]scene.Value, len(questions))
	for k, q := range questions {
		if out[k] = make([]scene.Value, len(frames)); q.ref == (scene.Ref{}) {
			copy(out[k], q.worth(frames...))
		}
	}
	for f, frame := range frames {
		plan.Evaluate(frame)
		for k, q := range questions {
			if q.ref != (scene.Ref{}) {
				out[k][f] = q.worth(frame)[0]
			}
		}
	}
	for k, q := range questions {
		for f, v := range out[k] {
			if v.Fits(q.Type) != nil {
				out[k][f] = scene.Value{}
			}
		}
	}
	return out
}

// Ref returns the property that is asked for; empty for a formula.
func (q Question) Ref() scene.Ref { return q.ref }

// One reads the name of a property, as `Owner: property` with or without braces, or else a formula.
func One(plan *engine.Plan, text string) (Question, error) {
	scope := wire.ScopeOf(plan.Layout, -1, nil, "")
	ref, err := find(plan, scope, text)
	if err == nil {
		return property(plan, text, ref), nil
	}
	compiled, _ := plan.Try(text, scene.Ref{})
	if errs := compiled.Errors(); len(errs) > 0 {
		if strings.ContainsAny(text, "{+*/()") {
			return Question{}, errs[0].Placed(text)
		}
		return Question{}, err
	}
	return Question{Name: text, Type: compiled.Type.Of, worth: func(frames ...float64) []scene.Value {
		_, values := plan.Try(text, scene.Ref{}, frames...)
		return values
	}}, nil
}

func property(plan *engine.Plan, name string, ref scene.Ref) Question {
	q := Question{Name: name, ref: ref, worth: func(...float64) []scene.Value { return []scene.Value{plan.Value(ref)} }}
	if spec, _ := plan.Layout.Find(ref.Item, ref.Property); spec != nil {
		q.Type, q.Unit = spec.Type, spec.Unit
		if ref.Component != "" {
			q.Type = scene.Number
		}
	}
	return q
}

// All reads what One reads, and also names in whose owner * and ? stand for any text and any character: these take all that match, of
// copies as many as Shown says are shown, in the order of the items.
func All(plan *engine.Plan, text string, shown map[scene.ID]int) ([]Question, error) {
	if !pattern(text) {
		q, err := One(plan, text)
		return []Question{q}, err
	}
	scope := wire.ScopeOf(plan.Layout, -1, nil, "")
	owner, of, _ := strings.Cut(text, ":")
	var out []Question
	for _, item := range plan.Layout.Laid() {
		if !scene.Matches(owner, item.Name) {
			continue
		}
		if from, n, copied := scene.LaneOf(item.ID); copied && n > shown[from] {
			continue
		}
		if ref, p := binding.Find("@"+string(item.ID)+":"+of, scope); p == nil {
			out = append(out, property(plan, binding.NameOf(ref, scope), ref))
		}
	}
	if len(out) == 0 {
		return nil, fmt.Errorf("no item named like %q has a property named %q", strings.TrimSpace(owner), strings.TrimSpace(of))
	}
	return out, nil
}

// Shown returns how many copies each item shows at most at some frames, where a name asks for it, and leaves the plan at the first of
// them.
func Shown(plan *engine.Plan, names []string, frames []float64) map[scene.ID]int {
	most := map[scene.ID]int{}
	if slices.ContainsFunc(names, pattern) {
		for _, item := range plan.Layout.Composition.Items {
			if item.Kind == scene.CopiesItem {
				most[item.ID] = 0
			}
		}
	}
	if len(most) == 0 {
		frames = frames[:min(1, len(frames))]
	}
	for _, frame := range slices.Backward(frames) {
		plan.Evaluate(frame)
		for id, n := range most {
			most[id] = max(n, plan.NumberOfCopies(id))
		}
	}
	return most
}

// pattern reports whether a name of a property is one of many: its owner has * or ? in it, and it is no formula.
func pattern(text string) bool {
	owner, _, ok := strings.Cut(text, ":")
	return ok && strings.ContainsAny(owner, "*?") && !strings.ContainsAny(owner, "{(")
}

// find reads `Owner: property`, of an item or of a copy.
func find(plan *engine.Plan, scope *binding.Scope, text string) (scene.Ref, error) {
	found, p := binding.Find(text, scope)
	if p == nil {
		return found, nil
	}
	ref, err := plan.Layout.Composition.Find(text)
	if _, _, copied := scene.LaneOf(ref.Item); err == nil && !copied {
		err = p
	}
	return ref, err
}

// Within refuses frames that lie too far off a composition.
func Within(c *scene.Composition, frames ...float64) error {
	for _, f := range frames {
		if !c.Reaches(f) {
			return fmt.Errorf("%s has the frames 0 to %d; up to %d before and after them can be read, not %v", c.Name, c.Frames-1, scene.Margin, f)
		}
	}
	return nil
}

// Composition returns the composition of a project with a name or an id, whatever its case; the first one where the name is empty. Those
// that are not readings come first.
func Composition(p *scene.Project, name string) (*scene.Composition, error) {
	if name == "" {
		return p.Compositions[0], nil
	}
	if c := p.Composition(scene.ID(name)); c != nil {
		return c, nil
	}
	for _, readings := range []bool{false, true} {
		for _, c := range p.Compositions {
			if c.IsReading() == readings && strings.EqualFold(c.Name, strings.TrimSpace(name)) {
				return c, nil
			}
		}
	}
	var all []string
	for _, c := range p.Compositions {
		all = append(all, c.Name)
	}
	return nil, fmt.Errorf("%s has no composition named %q; there are: %s", p.Name, scene.Clip(name), strings.Join(all, ", "))
}

// Printed writes a value; a colour as #rrggbbaa.
func Printed(t scene.Type, v scene.Value) string {
	if t != scene.Colour || v.Len() != 4 {
		return v.String()
	}
	out := "#"
	for k := range 4 {
		out += fmt.Sprintf("%02x", int(math.Round(255*math.Min(1, math.Max(0, v.At(k))))))
	}
	return out
}
