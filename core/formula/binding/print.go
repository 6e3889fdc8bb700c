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
	if !r.Owned() {
		return r.Typed()
	}
	if r.Many() {
		return s.shownMany(r)
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

// shownMany is shown for what stands for many.
func (s *Scope) shownMany(r *syntax.Reference) string {
	owner := `"something removed"`
	switch {
	case r.Of == scene.OfNames:
		owner = syntax.Pattern(r.Owner)
	case r.Of == scene.OfRow:
		if s.Rows == nil {
			break
		}
		for _, row := range s.Rows() {
			if row.ID == r.Item {
				owner = syntax.Quote(row.Name)
			}
		}
	default:
		one := *r
		one.Of, one.Key, one.Property, one.ByName = "", "", "", false
		owner = one.Hung(r.Of, s.shown(&one))
	}
	property := ""
	switch {
	case r.ByName:
		property = QuoteProperty(r.Property)
	case r.Key != "":
		property = s.nameOf(r.Key)
	case r.Property != "": // as it was typed
		return owner + ": " + r.Property
	default:
		return owner
	}
	if r.Part != "" {
		property += "." + r.Part
	}
	return owner + ": " + property
}

// nameOf returns what a property is called where it is not known of which item it is.
func (s *Scope) nameOf(key string) string {
	if spec := scene.Described(key); spec != nil {
		return spec.Name
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
