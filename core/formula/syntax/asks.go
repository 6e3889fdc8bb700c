package syntax

import "slices"

// Unbound reports whether a formula holds names in place of ids.
func Unbound(text string) bool {
	return slices.ContainsFunc(References(text), func(r *Reference) bool {
		return r.Item == "" && r.Relative == "" || r.Key == "" && r.Property != ""
	})
}

// UsesOwn reports whether a formula is made of the value that the driven property has without it.
func UsesOwn(text string) bool {
	tokens, p := scan(text)
	return p == nil && slices.ContainsFunc(tokens, func(t token) bool { return t.Kind == tokenName && (t.Text == "own" || t.Text == "below") })
}

// AsksBelow reports whether a formula asks for what the links under its own make.
func AsksBelow(text string) bool {
	tokens, _ := scan(text)
	for _, t := range tokens {
		if t.Kind == tokenName && t.Text == "below" {
			return true
		}
	}
	return false
}
