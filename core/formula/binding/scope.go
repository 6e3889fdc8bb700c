// Package binding is what the names in a formula mean: it finds the items and properties that references are to, binds them to ids,
// and prints them with today's names.
package binding

import (
	"fmt"
	"sort"
	"strconv"
	"strings"

	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// Scope is what a formula can name where it stands: the composition's rate in frames a second, its length in frames, its size in pixels,
// its items, and what it drives.
type Scope struct {
	Rate, Frames, Width, Height float64

	Find  func(scene.ID) *scene.Item // nil: there are no items at all
	Items func() []*scene.Item
	Named func(name string) []*scene.Item // those of Items that have a name, as scene.Fold compares it

	Self   *scene.Item // the item that is driven
	Target *scene.Spec // the property that is driven; nil: a formula by itself
	Part   string      // the component that is driven
	Loose  bool        // the result is not brought to the target
	// FirstUnit takes the unit of the first of some values for that of a result which lies between them, and of the one that a choice
	// comes to first, as formulas did before format 3 of projects.
	FirstUnit bool
	// Given are names of which no more is known than of what type they are: enough to check a formula, not to work it out.
	Given map[string]Type

	// Row is the row of the roster that the driven member is in, and Index where it stands there; nil for
	// a link on a single property.
	Row   *scene.Row
	Index int
	// Partners are the members of a second roster that the first is paired with, and Place where the
	// driven member stands in the first, all rows counted.
	Partners []scene.Member
	Place    int

	Rows   func() []*scene.RosterLink // the rows that there are; nil: none
	Gather func(scene.Gathering) (*scene.Gathered, error)
	Each   int // of the many that a program reads, the one that is meant, from 0
}

// Level returns the row that is some rosters further out, and where the driven member, or what it hangs
// on, stands there.
func (s *Scope) Level(outer int) (row *scene.Row, index int) {
	row, index = s.Row, s.Index
	for ; outer > 0 && row != nil; outer-- {
		row, index = row.Outer, row.Index
	}
	return row, index
}

// Counted returns where the driven member stands in its row, or the row further out. Outside a roster the
// index and the share are 0, number and count 1.
func (s *Scope) Counted(kind machine.InputKind, outer int) float64 {
	row, index := s.Level(outer)
	n := 1
	if row != nil {
		n = max(1, len(row.Members))
	}
	switch kind {
	case machine.Number:
		return float64(index + 1)
	case machine.Count:
		return float64(n)
	case machine.Share:
		if n == 1 {
			return 0
		}
		return float64(index) / float64(n-1)
	}
	return float64(index)
}

// Relation returns what stands somewhere relative to the driven member; no item where there is none.
func (s *Scope) Relation(relative string, steps, outer int) scene.Member {
	row, at := s.Level(outer)
	var self scene.Member
	switch {
	case outer > 0 && row != nil:
		self = row.Members[at]
	case outer == 0 && s.Self != nil:
		self.Item = s.Self
		if s.Target != nil {
			self.Key = s.Target.Key
		}
	}
	switch relative {
	case "self":
		return self
	case "parent":
		if self.Item != nil {
			return scene.Member{Item: s.Find(self.Item.Parent)}
		}
	case "partner":
		if outer == 0 && s.Place < len(s.Partners) {
			return s.Partners[s.Place]
		}
	default:
		if row == nil {
			break
		}
		switch relative {
		case "prev":
			at -= steps
		case "next":
			at += steps
		case "first":
			at = 0
		case "last":
			at = len(row.Members) - 1
		}
		if at >= 0 && at < len(row.Members) {
			return row.Members[at]
		}
	}
	return scene.Member{}
}

// Apart returns a stored formula of a row as it is at the driven member by itself: with what the words that count give there, and with the
// items that stand relative to it. It reports false where it says so of nothing, or of copies.
func (s *Scope) Apart(stored string) (string, bool) {
	ok := true
	text := syntax.Recounted(stored, func(word string, outer int) string {
		row, _ := s.Level(outer)
		ok = ok && row != nil && !row.Copies
		return scene.Exact(s.Counted(syntax.Counts[word], outer))
	})
	return syntax.ReplaceReferences(text, func(r *syntax.Reference) string {
		if r.Relative != "" && (r.Outer > 0 || r.Relative != "self" && r.Relative != "parent") {
			m := s.Relation(r.Relative, r.Steps, r.Outer)
			if m.Item == nil {
				ok = false
				return r.Bound()
			}
			if r.Key == scene.OwnVertex {
				r.Key = m.Key
			}
			r.Item, r.Relative, r.Steps, r.Outer = m.Item.ID, "", 1, 0
		}
		if !r.Owned() {
			return "{" + r.Typed() + "}"
		}
		return r.Bound()
	}), ok
}

// Bind returns the property that an input of a program refers to in this scope; no item where there is
// none.
func (s *Scope) Bind(in *machine.Input) (item scene.ID, key string) {
	if in.Many.Of != "" {
		if members := s.members(in); s.Each < len(members) {
			return members[s.Each].Item.ID, members[s.Each].Key
		}
		return "", in.Key
	}
	if in.Relative == "" {
		return in.Item, in.Key
	}
	m := s.Relation(in.Relative, in.Steps, in.Outer)
	if m.Item == nil {
		return "", in.Key
	}
	if in.Key == scene.OwnVertex {
		return m.Item.ID, m.Key
	}
	return m.Item.ID, in.Key
}

// Suits reports whether a program that was compiled in one scope serves in another: whether all that it reads relative to
// what is driven is of the same sort there. On a row, what is not there at all may be missing; elsewhere nothing may.
func (s *Scope) Suits(p *machine.Program) bool {
	return s.suits(p, map[*machine.Program]bool{})
}

// suits is Suits for a program and those that it looks at, each looked over once.
func (s *Scope) suits(p *machine.Program, seen map[*machine.Program]bool) bool {
	if seen[p] {
		return true
	}
	seen[p] = true
	for i := range p.Inputs {
		in := &p.Inputs[i]
		if in.Relative == "" {
			continue
		}
		id, key := s.Bind(in)
		if id == "" {
			if s.Row == nil {
				return false
			}
			continue
		}
		if in.Kind != machine.Property {
			continue
		}
		if spec := s.Find(id).Spec(key); spec == nil || spec.Type != in.Type || Joined(spec) != in.Options {
			return false
		}
	}
	for _, look := range p.Looks {
		if !s.suits(look, seen) {
			return false
		}
	}
	for _, g := range p.Gathers {
		if !s.suits(g.Body, seen) || g.Arg != nil && !s.suits(g.Arg, seen) {
			return false
		}
	}
	return true
}

// NoFurther says that there is no row further out.
const NoFurther = "this link's row is not inside another row, so there is no outer"

// Owner returns the item that a reference is about. Where a roster has no such member, another one stands
// for it, so that the property can be checked.
func (s *Scope) Owner(r *syntax.Reference) (*scene.Item, *syntax.Problem) {
	fail := func(format string, args ...any) (*scene.Item, *syntax.Problem) {
		return nil, &syntax.Problem{At: r.At, End: r.End, Sentence: fmt.Sprintf(format, args...)}
	}
	switch {
	case s.Find == nil:
		return fail("there is no composition here to refer to")
	case r.Item != "":
		if item := s.Find(r.Item); item != nil {
			return item, nil
		}
		return fail("what this refers to was removed")
	case r.Relative == "":
		return s.named(r)
	case s.Self == nil:
		return fail("%s only has a meaning where an item is driven", r.Relative)
	}
	row, at := s.Level(r.Outer)
	if r.Outer > 0 && row == nil {
		return fail(NoFurther)
	}
	if r.Relative == "last" && row != nil && row.Copies {
		return fail("copies have no last one, since their number can change; use count")
	}
	if m := s.Relation(r.Relative, r.Steps, r.Outer); m.Item != nil {
		return m.Item, nil
	}
	switch {
	case r.Relative == "parent":
		return fail("%s has no parent", s.Self.Name)
	case r.Relative == "partner" && r.Outer == 0 && len(s.Partners) > 0:
		return s.Partners[0].Item, nil
	case r.Relative == "partner":
		return fail("this link's row is not paired with another, so there is no partner")
	case row != nil && at < len(row.Members):
		return row.Members[at].Item, nil
	}
	return fail("%s only works on a row; this link drives a single property", r.Relative)
}

// named finds an item by the name that was typed.
func (s *Scope) named(r *syntax.Reference) (*scene.Item, *syntax.Problem) {
	found := s.Named(r.Owner)
	p := &syntax.Problem{At: r.At, End: r.End}
	if r.PropertyAt > 0 {
		p.End = r.PropertyAt - 1
	}
	switch {
	case len(found) == 0:
		p.Sentence = fmt.Sprintf("there is no item named %s", r.Owner)
		if r.Property == "" {
			if meant := s.Meant(r.Owner); len(meant) > 0 {
				p.Sentence += "; a property is named with its owner: {Owner: property}"
				for _, text := range meant[:min(3, len(meant))] {
					p.Fixes = append(p.Fixes, syntax.Fix{Label: text, At: r.At - 1, End: r.End + 1, Text: text})
				}
			}
		}
		var names []string
		for _, item := range s.Items() {
			names = append(names, item.Name)
		}
		for _, name := range scene.Nearest(r.Owner, names) {
			p.Fixes = append(p.Fixes, syntax.Fix{Label: name, At: p.At, End: p.End, Text: syntax.Quote(name)})
		}
		return nil, p
	case r.Which > len(found):
		p.Sentence = fmt.Sprintf("there are %d items named %s, not %d", len(found), r.Owner, r.Which)
		return nil, p
	case r.Which > 0:
		return found[r.Which-1], nil
	case len(found) > 1:
		p.Sentence = fmt.Sprintf("%d items are named %s; which one is meant?", len(found), r.Owner)
		for n := range min(len(found), 6) {
			text := syntax.Quote(r.Owner) + "~" + strconv.Itoa(n+1)
			p.Fixes = append(p.Fixes, syntax.Fix{Label: text, At: p.At, End: p.End, Text: text})
		}
		return nil, p
	}
	return found[0], nil
}

// Property returns the property of an item that a reference names, and fills in its key and component.
func (s *Scope) Property(r *syntax.Reference, item *scene.Item) (*scene.Spec, *syntax.Problem) {
	if spec := s.ownVertex(r); spec != nil {
		return spec, nil
	}
	if r.Key != "" {
		if spec := item.Spec(r.Key); spec != nil {
			return spec, nil
		}
		return nil, &syntax.Problem{At: r.At, End: r.End, Sentence: fmt.Sprintf("%s no longer has the property that this refers to", item.Name)}
	}
	typed := scene.Fold(r.Property)
	specs := item.Readable()
	for _, whole := range []bool{true, false} {
		name, part := typed, ""
		if !whole {
			dot := strings.LastIndexByte(typed, '.')
			if dot < 0 {
				break
			}
			name, part = typed[:dot], typed[dot+1:]
		}
		if spec := s.vertex(name, item); spec != nil {
			specs = append(specs, spec)
		}
		if strings.HasPrefix(name, "weight of ") {
			specs = append(specs, item.Weights()...)
		}
		// A property and a control may differ in their case alone.
		typed := syntax.Unquote(strings.TrimSuffix(strings.TrimSpace(r.Property), "."+part))
		if part == "" {
			typed = syntax.Unquote(strings.TrimSpace(r.Property))
		}
		for _, same := range []func(spec *scene.Spec) bool{
			func(spec *scene.Spec) bool { return spec.Name == typed },
			func(spec *scene.Spec) bool {
				return scene.Fold(spec.Name) == scene.Fold(syntax.Unquote(name)) || spec.Key == name
			},
		} {
			for _, spec := range specs {
				if _, ok := spec.Type.Component(part); same(spec) && (ok || spec.Type.Worked(part)) {
					r.Key, r.Part = spec.Key, part
					return spec, nil
				}
			}
		}
	}
	return nil, s.noProperty(r, item, specs)
}

// ownVertex reads vertex on a roster of them: that of the member which a reference is about.
func (s *Scope) ownVertex(r *syntax.Reference) *scene.Spec {
	if r.Relative == "" || r.Relative == "parent" || s.Target == nil || r.Outer > 0 || s.Row == nil {
		return nil
	}
	if _, _, vertex := scene.VertexOf(s.Target.Key); !vertex {
		return nil
	}
	name, part, _ := strings.Cut(scene.Fold(r.Property), ".")
	if r.Key == "" && name == scene.OwnVertex {
		r.Key, r.Part = scene.OwnVertex, part
	}
	if r.Key != scene.OwnVertex {
		return nil
	}
	spec := *s.Target
	spec.Key, spec.Name = scene.OwnVertex, scene.OwnVertex
	return &spec
}

// vertex reads vertices[4] and vertex 4, and world.vertices[4] and world vertex 4: the number is that which the
// interface shows.
func (s *Scope) vertex(name string, item *scene.Item) *scene.Spec {
	local := strings.TrimPrefix(strings.TrimPrefix(name, syntax.WorldPrefix), "world ")
	inside, ok := strings.CutPrefix(local, "vertex ")
	if listed, rest, is := syntax.CutVertices(local); is && rest == "" {
		inside, ok = listed, true
	}
	number, err := strconv.Atoi(strings.TrimSpace(inside))
	if !ok || err != nil {
		return nil
	}
	id := number
	if item.Kind == scene.PathItem {
		id = item.Path.IDOf(number)
	}
	key := scene.VertexKey(id)
	if local != name {
		key = scene.WorldVertexKey(id)
	}
	spec := item.Spec(key)
	if spec != nil {
		copied := *spec
		copied.Name = name
		return &copied
	}
	return nil
}

// noProperty says that an item has no such property: with the nearest names, and with who has one.
func (s *Scope) noProperty(r *syntax.Reference, item *scene.Item, specs []*scene.Spec) *syntax.Problem {
	p := &syntax.Problem{At: r.PropertyAt, End: r.PropertyEnd}
	if inside, rest, ok := syntax.CutVertices(r.Property); ok && inside == "0" && len(item.VertexKeys()) > 0 {
		p.Sentence = "vertices are counted from 1"
		p.Fixes = []syntax.Fix{{Label: "the first one", At: p.At, End: p.End, Text: " vertices[1]" + rest}}
		return p
	}
	names := make([]string, len(specs))
	for i, spec := range specs {
		names[i] = spec.Name
	}
	p.Sentence = fmt.Sprintf("%s has no property named %s", item.Name, r.Property)
	for _, name := range scene.Nearest(r.Property, names) {
		p.Fixes = append(p.Fixes, syntax.Fix{Label: name, At: p.At, End: p.End, Text: " " + QuoteProperty(name)})
	}
	if s.Items == nil {
		return p
	}
	var owners []string
	for _, other := range s.Items() {
		for _, spec := range other.Specs() {
			if other != item && scene.Fold(spec.Name) == scene.Fold(r.Property) && len(owners) < 3 {
				owners = append(owners, other.Name)
				p.Fixes = append(p.Fixes, syntax.Fix{Label: other.Name + ": " + spec.Name, At: r.At, End: r.End, Text: syntax.Quote(other.Name) + ": " + QuoteProperty(spec.Name)})
				break
			}
		}
	}
	if len(owners) > 0 {
		p.Sentence += "; it is a property of " + strings.Join(owners, ", ")
	}
	return p
}

// QuoteProperty quotes the name of a property where it would be read as something else.
func QuoteProperty(name string) string {
	if strings.ContainsAny(name, ":{}~@\n\"") {
		return syntax.Quote(name)
	}
	return name
}

// NearestNames offers the names that come close to what was typed.
func NearestNames(typed string, names []string) []string {
	sort.Strings(names)
	return scene.Nearest(typed, names)
}

// Meant offers the references that a name or a reference may stand for: properties of that name, of any item.
func (s *Scope) Meant(name string) (fixes []string) {
	if s.Items == nil {
		return nil
	}
	owner, property := "", scene.Fold(name)
	if dot := strings.IndexByte(name, '.'); dot > 0 {
		owner, property = scene.Fold(name[:dot]), scene.Fold(name[dot+1:])
	}
	for _, item := range s.Items() {
		if owner != "" && scene.Fold(item.Name) != owner {
			continue
		}
		for _, spec := range item.Readable() {
			if scene.Fold(spec.Name) == property && (owner != "" || item.Control(scene.ID(spec.Key)) != nil) {
				fixes = append(fixes, "{"+syntax.Quote(item.Name)+": "+QuoteProperty(spec.Name)+"}")
			}
		}
	}
	return fixes
}

// Type is what kind of value an expression has, and its unit.
type Type struct {
	Of   scene.Type
	Unit scene.Unit
	// Scaled says that a plain factor made the number fit what it is for: a unit that does not is no mistake then.
	Scaled bool
	List   *List // of a list: what it was gathered of, where it is known
}

// Joined are the options of a property as one text.
func Joined(spec *scene.Spec) string {
	if spec.Type != scene.Choice {
		return ""
	}
	return strings.Join(spec.Options, "\n")
}
