package binding

import (
	"slices"
	"strconv"

	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/scene"
)

// Print returns a stored formula with the names that things have today.
func Print(stored string, s *Scope) string {
	return syntax.ReplaceReferences(stored, func(r *syntax.Reference) string { return "{" + s.shown(r) + "}" })
}

func (s *Scope) shown(r *syntax.Reference) string {
	if r.Item == "" && r.Relative == "" {
		return r.Typed()
	}
	item, p := s.Owner(r)
	owner := r.Owning()
	if r.Relative == "" {
		owner = `"something removed"`
		if p == nil {
			owner = syntax.Quote(item.Name)
			if n := s.which(r, item.Name); n > 0 {
				owner += "~" + strconv.Itoa(n)
			}
		}
	}
	if r.Key == "" {
		return owner
	}
	property := r.Key
	if p != nil {
		property = s.nameOf(r.Key)
	} else if r.Key == scene.OwnVertex || syntax.Vertices(r.Key) {
		property = r.Key
	} else if spec := item.Spec(r.Key); spec != nil {
		property = QuoteProperty(spec.Name)
	}
	if r.Part != "" {
		property += "." + r.Part
	}
	return owner + ": " + property
}

// nameOf returns what a property is called where it is not known of which item it is.
func (s *Scope) nameOf(key string) string {
	for _, list := range [][]*scene.Spec{scene.Properties, scene.Readable} {
		for _, spec := range list {
			if spec.Key == key {
				return spec.Name
			}
		}
	}
	for _, item := range s.Items() {
		if control := item.Control(scene.ID(key)); control != nil {
			return QuoteProperty(control.Name)
		}
	}
	return key
}

// which returns the number of an item among several of its name; 0 for the only one.
func (s *Scope) which(r *syntax.Reference, name string) int {
	alike := s.Named(name)
	if len(alike) < 2 {
		return 0
	}
	return 1 + slices.IndexFunc(alike, func(item *scene.Item) bool { return item.ID == r.Item })
}
