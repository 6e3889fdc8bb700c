package binding

import (
	"fmt"
	"strings"

	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// List is what a reference to many gathers.
type List struct {
	Gathering scene.Gathering // without the item, where that is told by its place
	Relative  string          // the item on which they hang, where it is told by its place
	Steps     int
	Outer     int
	Members   []scene.Member
	Whose     uint64      // the same for lists of the same items in the same order
	Spec      *scene.Spec // of the first of them; nil where the items themselves are gathered
}

// Many reports whether a reference stands for many, and fills in the row where it is named by one and no item has that name.
func (s *Scope) Many(r *syntax.Reference) bool {
	if r.Many() || r.Relative != "" || r.Item != "" || s.Named == nil || s.Rows == nil || len(s.Named(r.Owner)) > 0 {
		return r.Many()
	}
	for _, row := range s.Rows() {
		if scene.Fold(row.Name) == scene.Fold(r.Owner) {
			r.Of, r.Item = scene.OfRow, row.ID
			return true
		}
	}
	return false
}

// Gathered returns what a reference to many gathers, and fills in what it is to be stored with.
func (s *Scope) Gathered(r *syntax.Reference) (*List, *syntax.Problem) {
	fail := func(at, end int, err error) (*List, *syntax.Problem) {
		return nil, &syntax.Problem{At: at, End: end, Sentence: err.Error()}
	}
	if s.Gather == nil {
		return fail(r.At, r.End, fmt.Errorf("there is no composition here to refer to"))
	}
	var on scene.ID // what they hang on, where that is told by its place
	if r.Of != scene.OfNames && r.Of != scene.OfRow {
		item, p := s.Owner(r)
		if p != nil {
			return nil, p
		}
		if on = item.ID; r.Relative == "" {
			r.Item = on
		}
	}
	gather := func(r *syntax.Reference) (*scene.Gathered, error) {
		g := r.Gathering()
		if g.Item == "" {
			g.Item = on
		}
		return s.Gather(g)
	}
	list := &List{Relative: r.Relative}
	if r.Relative != "" {
		list.Steps, list.Outer = r.Steps, r.Outer
	}
	of := *r
	of.Key, of.ByName = "", false
	items, err := gather(&of)
	if err != nil {
		p := &syntax.Problem{At: r.At, End: r.End, Sentence: err.Error()}
		if r.Of == scene.OfNames {
			p.Fixes = s.patterns(r)
		}
		return nil, p
	}
	list.Members = items.Members
	if r.Property == "" && r.Key == "" {
		list.Gathering = of.Gathering()
		return list, nil
	}
	if p := s.manyProperty(r, items.Members); p != nil {
		return nil, p
	}
	list.Gathering = r.Gathering()
	found, err := gather(r)
	if err != nil {
		return fail(r.PropertyAt, r.PropertyEnd, err)
	}
	list.Members, list.Whose = found.Members, found.Whose
	list.Spec = found.Spec
	if found.Odd >= 0 {
		odd := found.Members[found.Odd]
		return fail(r.PropertyAt, r.PropertyEnd, fmt.Errorf("a list holds values of one type, but %s of %s is a %s, and that of %s a %s", list.Spec.Name, found.Members[0].Item.Name, list.Spec.Type.Word(), odd.Item.Name, odd.Item.Spec(odd.Key).Type.Word()))
	}
	return list, nil
}

// manyProperty finds the property that a reference names of many: by its key where the catalogue has it, else by its name.
func (s *Scope) manyProperty(r *syntax.Reference, members []scene.Member) *syntax.Problem {
	if r.Key != "" || r.ByName {
		return nil
	}
	name := syntax.Unquote(strings.TrimSpace(r.Property))
	if r.Of == scene.OfRow && strings.HasPrefix(scene.Fold(name), scene.OwnVertex) {
		if whole, part, _ := strings.Cut(scene.Fold(name), "."); whole == scene.OwnVertex {
			r.Key, r.Part = scene.OwnVertex, part
			return nil
		}
	}
	for _, cut := range []bool{false, true} {
		whole, part := name, ""
		if cut {
			dot := strings.LastIndexByte(name, '.')
			if dot < 0 {
				break
			}
			whole, part = syntax.Unquote(name[:dot]), scene.Fold(name[dot+1:])
		}
		for _, m := range members {
			spec := m.Item.ReadableNamed(whole)
			if spec == nil {
				continue
			}
			if _, ok := spec.Type.Component(part); !ok && !spec.Type.Worked(part) {
				continue
			}
			r.Part = part
			r.OfEach(spec)
			return nil
		}
	}
	p := &syntax.Problem{At: r.PropertyAt, End: r.PropertyEnd, Sentence: fmt.Sprintf("none of the %d items has a property named %s", len(members), name)}
	var names []string
	for _, spec := range members[0].Item.Readable() {
		names = append(names, spec.Name)
	}
	for _, near := range scene.Nearest(name, names) {
		p.Fixes = append(p.Fixes, syntax.Fix{Label: near, At: p.At, End: p.End, Text: " " + QuoteProperty(near)})
	}
	return p
}

// patterns offers patterns of names that come near to one which nothing is named by.
func (s *Scope) patterns(r *syntax.Reference) (fixes []syntax.Fix) {
	end := r.End
	if r.PropertyAt > 0 {
		end = r.PropertyAt - 1
	}
	for _, near := range scene.Nearest(r.Owner, Patterns(s.Items())) {
		fixes = append(fixes, syntax.Fix{Label: near, At: r.At, End: end, Text: syntax.Pattern(near)})
	}
	return fixes
}

// Patterns lists patterns by which at least two items are named: what they begin with before a number, and *; each once, in their order.
func Patterns(items []*scene.Item) (out []string) {
	seen := map[string]int{}
	for _, item := range items {
		stem := strings.TrimRight(item.Name, "0123456789")
		if strings.TrimSpace(stem) == "" || stem == item.Name {
			continue
		}
		if seen[stem]++; seen[stem] == 2 {
			out = append(out, stem+"*")
		}
	}
	return out
}

// members returns those that an input of a program is read of, one after the other.
func (s *Scope) members(in *machine.Input) []scene.Member {
	list := s.MembersOf(machine.Many{Of: in.Many, Relative: in.Relative, Steps: in.Steps, Outer: in.Outer})
	if list == nil {
		return nil
	}
	return list.Members
}

// MembersOf returns whom a program gathers in this scope; nil for nobody.
func (s *Scope) MembersOf(many machine.Many) *scene.Gathered {
	g := many.Of
	if many.Relative != "" {
		item := s.Relation(many.Relative, many.Steps, many.Outer).Item
		if item == nil {
			return nil
		}
		g.Item = item.ID
	}
	if s.Gather == nil {
		return nil
	}
	list, err := s.Gather(g)
	if err != nil {
		return nil
	}
	return list
}

// Reads calls with every property of which a program reads something in a scope, and tells whether it is read at the same time. What
// it reads of many is told for each of them.
func (s *Scope) Reads(p *machine.Program, visit func(ref scene.Ref, component int, now bool)) {
	s.reads(p, true, map[*machine.Program]bool{}, visit)
}

func (s *Scope) reads(p *machine.Program, now bool, seen map[*machine.Program]bool, visit func(ref scene.Ref, component int, now bool)) {
	if p == nil || seen[p] {
		return
	}
	seen[p] = true
	for k := range p.Inputs {
		in := &p.Inputs[k]
		if in.Kind != machine.Property {
			continue
		}
		if in.Many.Of == "" {
			item, key := s.Bind(in)
			visit(scene.Ref{Item: item, Property: key}, in.Component, now)
			continue
		}
		for _, m := range s.members(in) {
			visit(scene.Ref{Item: m.Item.ID, Property: m.Key}, in.Component, now)
		}
	}
	for _, g := range p.Gathers {
		s.reads(g.Body, now, seen, visit)
		s.reads(g.Arg, now, seen, visit)
	}
	for _, look := range p.Looks {
		s.reads(look, false, seen, visit)
	}
}
