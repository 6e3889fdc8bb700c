package wiring

import (
	"fmt"

	"wunderkammer/core/change"
	"wunderkammer/core/formula"
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/gesture"
	"wunderkammer/core/link"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// Formula writes a formula onto properties: as a new link on each, or in place of one that is there.
// What does not check is kept as typed, and the link goes on with its last good version.
type Formula struct {
	Targets []scene.Ref `json:"targets"`
	Text    string      `json:"text"`
	// Link is the link of the first target whose formula is changed, and with it those of the others that are alike;
	// empty for a new one.
	Link scene.ID `json:"link,omitempty"`
}

// Do returns the operations that add or alter the links.
func (g *Formula) Do(c *gesture.Context) (gesture.Result, error) {
	var r gesture.Result
	drafts := 0
	scopes := make([]*binding.Scope, len(g.Targets))
	programs := make([]*machine.Program, len(g.Targets))
	for k, ref := range g.Targets {
		item, spec, err := c.Property(ref)
		if err != nil {
			return gesture.Result{}, err
		}
		if spec.ReadOnly {
			return gesture.Result{}, fmt.Errorf("%s: %s is read-only", item.Name, spec.Name)
		}
		scopes[k] = wire.ScopeOf(c.Planned.Layout, c.Planned.Layout.Index(item.ID), spec, ref.Component)
	}
	compiled := formula.CompileEach(g.Text, scopes)
	for k, one := range compiled {
		programs[k] = one.Program
	}
	c.Planned.Foresee(programs, scopes)
	alike := link.Alike(c.Composition, g.Targets, g.Link)
	for k, ref := range g.Targets {
		item, spec, _ := c.Property(ref)
		old := alike[k]
		l := &scene.Link{ID: c.NewID(), Kind: scene.Formula, Component: ref.Component, Gain: 1}
		if old != nil {
			if l = old.Clone(); !link.Of(l).Written {
				return gesture.Result{}, fmt.Errorf("%s: that link is not a formula", item.Name)
			}
		}
		if cycle := write(c, l, g.Text, compiled[k], scopes[k]); cycle != nil {
			r.Note = keptAsTyped(cycle)
		}
		if l.Draft != "" {
			drafts++
		}
		of := c.Of(item.ID, spec.Key)
		if old != nil {
			r.Ops = append(r.Ops, &change.LinkSet{Of: of, Link: l})
		} else {
			r.Ops = append(r.Ops, &change.LinkAdd{Of: of, Link: l, At: -1})
		}
	}
	if r.Note == "" && drafts > 0 && drafts < len(g.Targets) {
		r.Note = fmt.Sprintf("the formula has errors on %d of %d properties; they are marked", drafts, len(g.Targets))
	}
	return r, nil
}

// write puts a formula into a link. One that does not check, or would make a cycle, is kept as typed, and the
// version before stays.
func write(c *gesture.Context, l *scene.Link, text string, compiled *formula.Compiled, scope *binding.Scope) *wire.Cycle {
	if len(compiled.Errors()) > 0 {
		l.Draft = text
		return nil
	}
	if cycle := c.Planned.CycleOf(compiled.Program, scope); cycle != nil {
		l.Draft = text
		return cycle
	}
	l.Formula, l.Draft, l.FirstUnit = compiled.Bound, "", false
	return nil
}

func keptAsTyped(cycle *wire.Cycle) string {
	return "the formula is kept as typed, because it would create a loop: " + cycle.String()
}
