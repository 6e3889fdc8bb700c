package formula

import "strconv"

// Print returns a stored formula with the names that things have today.
func Print(stored string, s *Scope) string {
	return replaceReferences(stored, func(r *Reference) string { return "{" + s.shown(r) + "}" })
}

func (s *Scope) shown(r *Reference) string {
	if r.Item == "" && r.Relative == "" {
		return r.typed()
	}
	item, _, p := s.owner(r)
	owner := r.relative()
	if r.Relative == "" {
		owner = `"something removed"`
		if p == nil {
			owner = quote(item.Name)
			if n := s.which(r, item.Name); n > 0 {
				owner += "~" + strconv.Itoa(n)
			}
		}
	}
	if r.Key == "" {
		return owner
	}
	property := r.Key
	if p == nil {
		if spec := item.Spec(r.Key); spec != nil {
			property = quoteProperty(spec.Name)
		}
	}
	if r.Part != "" {
		property += "." + r.Part
	}
	return owner + ": " + property
}

// which returns the number of an item among several of its name; 0 for the only one.
func (s *Scope) which(r *Reference, name string) int {
	at, n := 0, 0
	for _, item := range s.Items() {
		if fold(item.Name) == fold(name) {
			if n++; item.ID == r.Item {
				at = n
			}
		}
	}
	if n < 2 {
		return 0
	}
	return at
}
