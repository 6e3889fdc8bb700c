package view

import (
	"unicode/utf16"

	"wunderkammer/core/engine"
	"wunderkammer/core/formula"
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
	"wunderkammer/core/wire"
)

// FormulaAsk is a question about a formula: one that stands on a link, or one that is being typed.
type FormulaAsk struct {
	Target     scene.Ref `json:"target"`           // the property it stands on
	RosterLink scene.ID  `json:"spread,omitempty"` // the link on a roster that it is of, in place of a link of the property
	Link       scene.ID  `json:"link,omitempty"`   // the link whose formula is asked for where no text is given
	Text       *string   `json:"text"`             // as it is typed
	Steps      int       `json:"steps,omitempty"`  // of a curve over the composition; 0 for none
}

// Formula is what an editor shows of a formula while it is typed.
type Formula struct {
	Text     string    `json:"text"` // with the names that things have today
	Problems []Problem `json:"problems" ts:"list"`
	Lines    []Line    `json:"lines" ts:"list"`
	Type     string    `json:"type"`
	Words    string    `json:"words"`           // read out
	Curve    []float64 `json:"curve,omitempty"` // the first component of the result over the composition
}

// Problem is a problem with its place in UTF-16 units, as editors in browsers count.
type Problem struct {
	At       int    `json:"at"`
	End      int    `json:"end"`
	Sentence string `json:"sentence"`
	Warning  bool   `json:"warning,omitempty"`
	Fixes    []Fix  `json:"fixes,omitempty"`
}

// Fix is an edit that mends a problem.
type Fix struct {
	Label string `json:"label"`
	At    int    `json:"at"`
	End   int    `json:"end"`
	Text  string `json:"text"`
}

// Line is what a line of a formula gives at the frame last evaluated.
type Line struct {
	Line  int         `json:"line"` // from 1
	Value scene.Value `json:"value"`
	List  *ListShown  `json:"list,omitempty"` // in place of the value, where it gives many
}

// ListShown is what is shown of a list: whose values it has, how many, and the first of them.
type ListShown struct {
	Of     string        `json:"of"` // whose, in words
	Count  int           `json:"count"`
	Names  []string      `json:"names" ts:"list"`
	Values []scene.Value `json:"values" ts:"list"`
}

func listOf(c *scene.Composition, of binding.Type, values []scene.Value) *ListShown {
	if of.List == nil {
		return nil
	}
	out := &ListShown{Of: c.NameOfGathering(of.List.Gathering), Count: len(of.List.Members), Values: []scene.Value{}, Names: []string{}}
	for k, v := range values {
		out.Values, out.Names = append(out.Values, finite(v)), append(out.Names, of.List.Members[k].Item.Name)
	}
	return out
}

// FormulaOf answers a question about a formula.
func FormulaOf(s *session.Session, a *FormulaAsk) Formula {
	plan := s.Plan()
	c := s.Composition()
	item := plan.Layout.Index(a.Target.Item)
	var of *scene.Link
	var scope *binding.Scope
	if rosterLink, _ := c.RosterLink(a.RosterLink); rosterLink != nil {
		of = rosterLink.Link
		index := rosterLink.IndexOf(c, scene.Member{Item: c.Item(a.Target.Item), Key: a.Target.Property})
		scope = wire.RosterScope(plan.Layout, rosterLink, index)
		if scope.Self != nil {
			item = plan.Layout.Index(scope.Self.ID)
		}
	} else {
		var spec *scene.Spec
		if item >= 0 {
			spec = plan.Layout.Items[item].Spec(a.Target.Property)
			of, _ = plan.Layout.Items[item].State(a.Target.Property).Link(a.Link)
		}
		component := a.Target.Component
		if of != nil {
			component = of.Component
		}
		scope = wire.ScopeOf(plan.Layout, item, spec, component)
	}
	out := Formula{Problems: []Problem{}, Lines: []Line{}}
	switch {
	case a.Text != nil:
		out.Text = *a.Text
	case of != nil && of.Draft != "":
		out.Text = of.Draft
	case of != nil:
		out.Text = binding.Print(of.Formula, scope)
	}
	compiled := formula.Compile(out.Text, scope)
	for i := range compiled.Problems {
		out.Problems = append(out.Problems, problemOf(out.Text, &compiled.Problems[i]))
	}
	out.Type, out.Words = string(compiled.Type.Of), syntax.Read(out.Text)
	if compiled.Program == nil {
		return out
	}
	if cycle := plan.CycleOf(compiled.Program, scope); cycle != nil {
		p := formula.CycleOf(out.Text, cycle.String(), scope)
		out.Problems = append(out.Problems, problemOf(out.Text, &p))
		return out
	}
	loose := *scope
	loose.Loose = true
	numbers := syntax.LineNumbers(out.Text)
	if lines := plan.Lines(out.Text, item, &loose); lines != nil {
		for k, v := range lines.At(plan.Frame()) {
			out.Lines = append(out.Lines, Line{numbers[k], finite(v), listOf(c, lines.Types[k], lines.List(k))})
		}
	}
	if a.Steps > 1 {
		out.Curve = curveOf(plan, out.Text, item, scope, a.Steps)
	}
	return out
}

// curveOf returns the first component of what a formula gives over the composition, at some steps of two at least; nothing of
// a text, or of what has errors.
func curveOf(plan *engine.Plan, text string, item int32, scope *binding.Scope, steps int) (out []float64) {
	frames := make([]float64, min(steps, 200))
	for k := range frames {
		frames[k] = float64(plan.Layout.Composition.Frames-1) * float64(k) / float64(len(frames)-1)
	}
	compiled, values := plan.TryIn(text, item, scope, frames...)
	if compiled.Type.Of == scene.Text {
		return nil
	}
	for _, v := range values {
		out = append(out, finite(v).At(0))
	}
	return out
}

// finite returns a value without what JSON cannot hold; nothing where it holds such a number.
func finite(v scene.Value) scene.Value {
	for _, x := range v.Nums() {
		if x-x != 0 {
			return scene.Value{}
		}
	}
	return v
}

func problemOf(text string, p *syntax.Problem) Problem {
	at := func(b int) int { return len(utf16.Encode([]rune(text[:b]))) }
	out := Problem{At: at(p.At), End: at(p.End), Sentence: p.Sentence, Warning: p.Warning}
	for _, f := range p.Fixes {
		out.Fixes = append(out.Fixes, Fix{f.Label, at(f.At), at(f.End), f.Text})
	}
	return out
}
