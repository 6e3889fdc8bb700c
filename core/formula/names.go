package formula

import (
	"fmt"
	"slices"
	"strings"

	"wunderkammer/core/scene"
)

// BindNames binds the names of a formula that holds some, as one may that no editor has checked, to the ids of
// what they name in a composition. What cannot be found, or is ambiguous, stays as it was typed. Self is the item that
// is driven, or one of a roster.
func BindNames(text string, c *scene.Composition, self *scene.Item, target *scene.Spec) string {
	if !Unbound(text) {
		return text
	}
	s := &Scope{Find: c.Item, Items: func() []*scene.Item { return c.Items }, Named: c.Named, Self: self, Target: target}
	return replaceReferences(text, func(r *Reference) string {
		item, p := s.owner(r)
		switch {
		case r.Relative != "" && p != nil:
			item = self // of the same kind, mostly
		case p != nil:
			return "{" + r.typed() + "}"
		case r.Relative == "":
			r.Item = item.ID
		}
		if item != nil && r.chosen() == "" && r.Key == "" && r.Property != "" {
			if _, p := s.property(r, item); p != nil {
				return "{" + r.typedAs(item) + "}"
			}
		}
		if r.Key == "" && r.Property != "" && item == nil && r.Relative != "" {
			r.Key, r.Part = keyNamed(r.Property)
		}
		if r.Key == "" && r.Property != "" {
			return "{" + r.typed() + "}"
		}
		return r.bound()
	})
}

// Unbound reports whether a formula holds names in place of ids.
func Unbound(text string) bool {
	return slices.ContainsFunc(References(text), func(r *Reference) bool {
		return r.Item == "" && r.Relative == "" || r.Key == "" && r.Property != ""
	})
}

// UsesOwn reports whether a formula is made of the value that the driven property has without it.
func UsesOwn(text string) bool {
	tokens, p := scan(text)
	return p == nil && slices.ContainsFunc(tokens, func(t token) bool { return t.kind == tokenName && (t.text == "own" || t.text == "below") })
}

// keyNamed returns the key of a property that some kind of item has by a name, and the component behind it; nothing where
// there is none.
func keyNamed(property string) (key, part string) {
	property = unquote(strings.TrimSpace(property))
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

// typedAs writes a reference of which only the owner is known.
func (r *Reference) typedAs(item *scene.Item) string {
	owner := r.relative()
	if r.Relative == "" {
		owner = "@" + string(item.ID)
	}
	return owner + ": " + r.Property
}

// Find reads the name of a property as a formula would, with or without braces: Owner: property, or
// Owner~2: property.x. It finds all that a formula can refer to.
func Find(text string, s *Scope) (scene.Ref, *Problem) {
	text = strings.TrimSpace(text)
	if strings.HasPrefix(text, "{") && strings.HasSuffix(text, "}") {
		text = text[1 : len(text)-1]
	}
	r, p := parseReference(text, 0)
	if p != nil {
		return scene.Ref{}, p
	}
	item, p := s.owner(r)
	if p != nil {
		return scene.Ref{}, p
	}
	if r.Property == "" && r.Key == "" || r.chosen() != "" {
		return scene.Ref{}, &Problem{End: len(text), Sentence: fmt.Sprintf("%q is not a property; write it as Owner: property", text)}
	}
	spec, p := s.property(r, item)
	if p != nil {
		return scene.Ref{}, p
	}
	return scene.Ref{Item: item.ID, Property: spec.Key, Component: r.Part}, nil
}

// NameOf writes the name of a property so that Find finds it again.
func NameOf(ref scene.Ref, s *Scope) string {
	return s.shown(&Reference{Item: ref.Item, Key: ref.Property, Part: ref.Component})
}
