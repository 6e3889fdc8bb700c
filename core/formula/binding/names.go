package binding

import (
	"fmt"
	"strings"

	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/scene"
)

// BindNames binds the names of a formula that holds some, as one may that no editor has checked, to the ids of
// what they name in a composition. What cannot be found, or is ambiguous, stays as it was typed. Self is the item that
// is driven, or one of a roster.
func BindNames(text string, c *scene.Composition, self *scene.Item, target *scene.Spec) string {
	if !syntax.Unbound(text) {
		return text
	}
	s := &Scope{Find: c.Item, Items: func() []*scene.Item { return c.Items }, Named: c.Named, Self: self, Target: target, Gather: c.Gather, Rows: func() []*scene.RosterLink { return c.RosterLinks }}
	return syntax.ReplaceReferences(text, func(r *syntax.Reference) string {
		if s.Many(r) {
			s.Gathered(r)
			return r.Stored()
		}
		item, p := s.Owner(r)
		switch {
		case r.Relative != "" && p != nil:
			item = self // of the same kind, mostly
		case p != nil:
			return "{" + r.Typed() + "}"
		case r.Relative == "":
			r.Item = item.ID
		}
		if item != nil && r.Chosen() == "" && r.Key == "" && r.Property != "" {
			if _, p := s.Property(r, item); p != nil {
				return "{" + r.TypedAs(item) + "}"
			}
		}
		if r.Key == "" && r.Property != "" && item == nil && r.Relative != "" {
			r.Key, r.Part = keyNamed(r.Property)
		}
		if r.Key == "" && r.Property != "" {
			return "{" + r.Typed() + "}"
		}
		return r.Bound()
	})
}

// keyNamed returns the key of a property that some kind of item has by a name, and the component behind it; nothing where
// there is none.
func keyNamed(property string) (key, part string) {
	property = syntax.Unquote(strings.TrimSpace(property))
	find := func(name string) string {
		for _, list := range [][]*scene.Spec{scene.Properties, scene.Readable} {
			for _, spec := range list {
				if strings.EqualFold(spec.Name, name) {
					return spec.Key
				}
			}
		}
		return ""
	}
	if key = find(property); key != "" {
		return key, ""
	}
	if dot := strings.LastIndexByte(property, '.'); dot > 0 {
		if key = find(property[:dot]); key != "" {
			return key, property[dot+1:]
		}
	}
	return "", ""
}

// Find reads the name of a property as a formula would, with or without braces: Owner: property, or
// Owner~2: property.x. It finds all that a formula can refer to.
func Find(text string, s *Scope) (scene.Ref, *syntax.Problem) {
	text = strings.TrimSpace(text)
	if strings.HasPrefix(text, "{") && strings.HasSuffix(text, "}") {
		text = text[1 : len(text)-1]
	}
	r, p := syntax.ParseReference(text, 0)
	if p != nil {
		return scene.Ref{}, p
	}
	item, p := s.Owner(r)
	if p != nil {
		return scene.Ref{}, p
	}
	if r.Property == "" && r.Key == "" || r.Chosen() != "" {
		return scene.Ref{}, &syntax.Problem{End: len(text), Sentence: fmt.Sprintf("%q is not a property; write it as Owner: property", text)}
	}
	spec, p := s.Property(r, item)
	if p != nil {
		return scene.Ref{}, p
	}
	return scene.Ref{Item: item.ID, Property: spec.Key, Component: r.Part}, nil
}

// NameOf writes the name of a property so that Find finds it again.
func NameOf(ref scene.Ref, s *Scope) string {
	return s.shown(&syntax.Reference{Item: ref.Item, Key: ref.Property, Part: ref.Component})
}
