package formula

import (
	"fmt"
	"sort"
	"strconv"
	"strings"

	"wunderkammer/core/scene"
)

// Scope is what a formula stands in.
type Scope struct {
	Rate, Frames, Width, Height float64

	Find  func(scene.ID) *scene.Item // nil: there are no items at all
	Items func() []*scene.Item

	Self   *scene.Item // the item that is driven
	Target *scene.Spec // the property that is driven; nil: a formula by itself
	Part   string      // the component that is driven
	Loose  bool        // the result is not brought to the target

	// Members are the items of the roster in order, and Index where the driven one stands; none for
	// a link on a single property.
	Members []*scene.Item
	Index   int
	// Partners are the members of a second roster that the first is paired with.
	Partners []*scene.Item
}

// Counted returns where the driven member stands in its roster. Outside a roster the index and the
// share are 0, number and count 1.
func (s *Scope) Counted(kind InputKind) float64 {
	n := max(1, len(s.Members))
	switch kind {
	case Number:
		return float64(s.Index + 1)
	case Count:
		return float64(n)
	case Share:
		if n == 1 {
			return 0
		}
		return float64(s.Index) / float64(n-1)
	}
	return float64(s.Index)
}

// Relation returns the item that stands somewhere relative to the driven one; nil where there is none.
func (s *Scope) Relation(relative string, steps int) *scene.Item {
	at, list := s.Index, s.Members
	switch relative {
	case "partner":
		list = s.Partners
	case "self":
		return s.Self
	case "parent":
		return s.Find(s.Self.Parent)
	case "prev":
		at -= steps
	case "next":
		at += steps
	case "first":
		at = 0
	case "last":
		at = len(s.Members) - 1
	}
	if at < 0 || at >= len(list) {
		return nil
	}
	return list[at]
}

// owner returns the item that a reference is about. Where a roster has no such member, another one stands
// for it, so that the property can be checked.
func (s *Scope) owner(r *Reference) (*scene.Item, *Problem) {
	fail := func(format string, args ...any) (*scene.Item, *Problem) {
		return nil, &Problem{At: r.at, End: r.end, Sentence: fmt.Sprintf(format, args...)}
	}
	switch {
	case s.Find == nil:
		return fail("there is no composition here, so nothing can be referred to")
	case r.Item != "":
		if item := s.Find(r.Item); item != nil {
			return item, nil
		}
		return fail("what this referred to was removed")
	case r.Relative == "":
		return s.named(r)
	case r.Outer > 0:
		return fail("this link's roster stands in no other roster, so there is nothing further out")
	case s.Self == nil:
		return fail("%s has no meaning where no item is driven", r.Relative)
	}
	if item := s.Relation(r.Relative, r.Steps); item != nil {
		return item, nil
	}
	switch {
	case r.Relative == "partner" && len(s.Partners) > 0:
		return s.Partners[0], nil
	case len(s.Members) > 0 && r.Relative != "partner":
		return s.Self, nil
	case r.Relative == "parent":
		return fail("%s is attached to nothing, so it has no parent", s.Self.Name)
	case r.Relative == "partner":
		return fail("this link's roster is paired with no other, so there is no partner")
	}
	return fail("%s exists only where a link drives a roster; this one drives a single property", r.Relative)
}

func fold(s string) string { return strings.ToLower(strings.TrimSpace(s)) }

// named finds an item by the name that was typed.
func (s *Scope) named(r *Reference) (*scene.Item, *Problem) {
	var found []*scene.Item
	var names []string
	for _, item := range s.Items() {
		names = append(names, item.Name)
		if fold(item.Name) == fold(r.Owner) {
			found = append(found, item)
		}
	}
	p := &Problem{At: r.at, End: r.end}
	if r.propertyAt > 0 {
		p.End = r.propertyAt - 1
	}
	switch {
	case len(found) == 0:
		p.Sentence = fmt.Sprintf("there is no item named %s", r.Owner)
		for _, name := range scene.Nearest(r.Owner, names) {
			p.Fixes = append(p.Fixes, Fix{name, p.At, p.End, quote(name)})
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
			text := quote(r.Owner) + "~" + strconv.Itoa(n+1)
			p.Fixes = append(p.Fixes, Fix{text, p.At, p.End, text})
		}
		return nil, p
	}
	return found[0], nil
}

// property returns the property of an item that a reference names, and fills in its key and component.
func (s *Scope) property(r *Reference, item *scene.Item) (*scene.Spec, *Problem) {
	if r.Key != "" {
		if spec := item.Spec(r.Key); spec != nil {
			return spec, nil
		}
		return nil, &Problem{At: r.at, End: r.end, Sentence: fmt.Sprintf("%s no longer has the property that this referred to", item.Name)}
	}
	typed := fold(r.Property)
	specs := append(item.Specs()[:len(item.Specs()):len(item.Specs())], scene.ReadableOf(item.Kind)...)
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
		// A property and a control may differ in their case alone.
		typed := unquote(strings.TrimSuffix(strings.TrimSpace(r.Property), "."+part))
		if part == "" {
			typed = unquote(strings.TrimSpace(r.Property))
		}
		for _, same := range []func(spec *scene.Spec) bool{
			func(spec *scene.Spec) bool { return spec.Name == typed },
			func(spec *scene.Spec) bool { return fold(spec.Name) == fold(unquote(name)) || spec.Key == name },
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

// vertex reads vertices[4] and vertex 4: the number is that which the interface shows.
func (s *Scope) vertex(name string, item *scene.Item) *scene.Spec {
	inside, ok := strings.CutPrefix(name, "vertex ")
	if listed, is := strings.CutPrefix(name, "vertices["); is && strings.HasSuffix(listed, "]") {
		inside, ok = listed[:len(listed)-1], true
	}
	number, err := strconv.Atoi(strings.TrimSpace(inside))
	if !ok || err != nil {
		return nil
	}
	id := number
	if item.Kind == scene.PathItem {
		id = 0
		for _, c := range item.Path.Contours {
			for _, v := range c.Vertices {
				if _, n := item.Path.Vertex(v.ID); n == number {
					id = v.ID
				}
			}
		}
	}
	spec := item.Spec(scene.VertexKey(id))
	if spec != nil {
		copied := *spec
		copied.Name = name
		return &copied
	}
	return nil
}

// noProperty says that an item has no such property: with the nearest names, and with who has one.
func (s *Scope) noProperty(r *Reference, item *scene.Item, specs []*scene.Spec) *Problem {
	p := &Problem{At: r.propertyAt, End: r.propertyEnd}
	names := make([]string, len(specs))
	for i, spec := range specs {
		names[i] = spec.Name
	}
	p.Sentence = fmt.Sprintf("%s has no property named %s", item.Name, r.Property)
	for _, name := range scene.Nearest(r.Property, names) {
		p.Fixes = append(p.Fixes, Fix{name, p.At, p.End, " " + quoteProperty(name)})
	}
	if s.Items == nil {
		return p
	}
	var owners []string
	for _, other := range s.Items() {
		for _, spec := range other.Specs() {
			if other != item && fold(spec.Name) == fold(r.Property) && len(owners) < 3 {
				owners = append(owners, other.Name)
				p.Fixes = append(p.Fixes, Fix{other.Name + ": " + spec.Name, r.at, r.end, quote(other.Name) + ": " + quoteProperty(spec.Name)})
				break
			}
		}
	}
	if len(owners) > 0 {
		p.Sentence += "; it is a property of " + strings.Join(owners, ", ")
	}
	return p
}

func quoteProperty(name string) string {
	if strings.ContainsAny(name, ":{}~@\n\"") {
		return quote(name)
	}
	return name
}

// nearestNames offers the names that come close to what was typed.
func nearestNames(typed string, names []string) []string {
	sort.Strings(names)
	return scene.Nearest(typed, names)
}
