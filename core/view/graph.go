package view

import (
	"strings"

	"wunderkammer/core/formula"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
	"wunderkammer/core/wire"
)

// GraphAsk asks what the slips of a graph give at the frame last evaluated.
type GraphAsk struct {
	Graph scene.ID `json:"graph"`
	// Member is which member of a roster that it drives is looked at, from 0; the one in the middle where there is none.
	Member int `json:"member"`
}

// ShownGraph is the answer.
type ShownGraph struct {
	Slips []ShownSlip `json:"slips" ts:"list"`
	// Members are those of the roster that is looked at; 0 for none.
	Members int `json:"members,omitempty"`
}

// ShownSlip is a slip with what it takes and gives.
type ShownSlip struct {
	ID     scene.ID     `json:"id"`
	Called string       `json:"called"`
	Ins    []graph.Port `json:"ins" ts:"list"`
	Outs   []SlipOutput `json:"outs" ts:"list"`
	Drives []Drive      `json:"drives,omitempty"`
	Fault  string       `json:"fault,omitempty"` // why it gives nothing, or drives nothing
}

// SlipOutput is what an output gives.
type SlipOutput struct {
	Key   string      `json:"key"`
	Tag   string      `json:"tag"` // what sort of value it is, in a letter or two
	Parts []string    `json:"parts,omitempty"`
	Value scene.Value `json:"value"` // absent where it is not finite
	Text  string      `json:"text,omitempty"`
}

// Drive is something that a drive slip gives its value.
type Drive struct {
	Ref        scene.Ref `json:"ref"`
	RosterLink scene.ID  `json:"spread,omitempty"`
	Link       scene.ID  `json:"link"`
	Name       string    `json:"name"`
}

// maxRounds bounds how often slips that do not work are left out one after the other.
const maxRounds = 40

// SlipsOf answers what the slips of a graph give; an empty answer where there is no such graph.
func SlipsOf(s *session.Session, a GraphAsk) ShownGraph {
	c, plan := s.Composition(), s.Plan()
	out := ShownGraph{Slips: []ShownSlip{}}
	g, _ := c.Graph(a.Graph)
	if g == nil {
		return out
	}
	drives := graph.Drives(c, g.ID)
	scope, item, members := lookedAt(s, drives, a.Member)
	out.Members = members
	faults, without := map[scene.ID]string{}, map[scene.ID]bool{}
	var sheet graph.Sheet
	var values []scene.Value
	var types []formula.Type
	for range maxRounds {
		var found []graph.Fault
		sheet, found = graph.SheetOf(g, without)
		for _, f := range found {
			faults[f.Slip] = f.Sentence
		}
		if values, types = plan.TryLines(sheet.Text, item, scope, plan.Frame()); values != nil || !leaveOut(&sheet, scope, without, faults) {
			break
		}
	}
	outs := map[scene.ID][]SlipOutput{}
	for k, o := range sheet.Outputs {
		if k < len(values) && o.Slip != "" {
			outs[o.Slip] = append(outs[o.Slip], outputOf(o, values[k], types[k]))
		}
	}
	inputs := graph.AllInputs(g)
	for _, slip := range g.Slips {
		one := ShownSlip{ID: slip.ID, Called: graph.Called(slip), Ins: inputs[slip.ID], Outs: outs[slip.ID], Fault: faults[slip.ID]}
		if one.Ins == nil {
			one.Ins = []graph.Port{}
		}
		if one.Outs == nil {
			one.Outs = []SlipOutput{}
		}
		if slip.Kind == scene.ReadSlip {
			one.Called = strings.Trim(formula.Print(slip.Text, scope), "{}")
		}
		for _, d := range drives {
			if d.Link.Slip == slip.ID {
				one.Drives = append(one.Drives, driveOf(c, d))
			}
		}
		out.Slips = append(out.Slips, one)
	}
	return out
}

// leaveOut notes the slips on whose lines a sheet does not work, and what is wrong with them; false where there is none.
func leaveOut(sheet *graph.Sheet, scope *formula.Scope, without map[scene.ID]bool, faults map[scene.ID]string) (found bool) {
	for _, p := range formula.Compile(sheet.Text, scope).Errors() {
		line := strings.Count(sheet.Text[:min(p.At, len(sheet.Text))], "\n")
		for line < len(sheet.Outputs) && sheet.Outputs[line].Slip == "" { // on the way to a slip
			line++
		}
		if line == len(sheet.Outputs) || without[sheet.Outputs[line].Slip] {
			continue
		}
		id := sheet.Outputs[line].Slip
		without[id], faults[id], found = true, p.Sentence, true
	}
	return found
}

func outputOf(o graph.Output, v scene.Value, of formula.Type) SlipOutput {
	spec := scene.Spec{Type: of.Of, Unit: of.Unit}
	out := SlipOutput{Key: o.Out, Tag: spec.Tag(), Parts: of.Of.Components()}
	if v.IsText() {
		out.Text = v.Str()
	} else {
		out.Value = finite(v)
	}
	return out
}

func driveOf(c *scene.Composition, d graph.Driven) Drive {
	out := Drive{Ref: d.Ref, RosterLink: d.RosterLink, Link: d.Link.ID}
	if s, _ := c.RosterLink(d.RosterLink); s != nil {
		out.Name = s.Name
	} else {
		ref := d.Ref
		ref.Component = d.Link.Component
		out.Name = c.NameOf(ref)
	}
	return out
}

// lookedAt returns where the formulas of a graph stand that is looked at: on the first that it drives, of a roster on one
// of its members.
func lookedAt(s *session.Session, drives []graph.Driven, member int) (scope *formula.Scope, item int32, members int) {
	plan, c := s.Plan(), s.Composition()
	scope, item = wire.ScopeOf(plan.Layout, -1, nil, ""), -1
	for _, d := range drives {
		if rosterLink, _ := c.RosterLink(d.RosterLink); rosterLink != nil {
			members = len(rosterLink.Members(c))
			scope = wire.RosterScope(plan.Layout, rosterLink, member)
			if scope.Self != nil {
				item = plan.Layout.Index(scope.Self.ID)
			}
			break
		}
		if i := plan.Layout.Index(d.Ref.Item); i >= 0 && item < 0 {
			item = i
			scope = wire.ScopeOf(plan.Layout, i, plan.Layout.Items[i].Spec(d.Ref.Property), d.Link.Component)
		}
	}
	loose := *scope
	loose.Loose = true
	return &loose, item, members
}
