package syntax

import (
	"maps"
	"slices"
)

// Unbound reports whether a formula holds names in place of ids.
func Unbound(text string) bool {
	return slices.ContainsFunc(References(text), func(r *Reference) bool {
		return r.Item == "" && r.Relative == "" || r.Key == "" && r.Property != ""
	})
}

// UsesOwn reports whether a formula is made of the value that the driven property has without it.
func UsesOwn(text string) bool { return says(text, "own", "below") }

// AsksBelow reports whether a formula asks for what the links under its own make.
func AsksBelow(text string) bool { return says(text, "below") }

// AsksRow reports whether a formula counts the members of a row, or looks at others of it.
func AsksRow(text string) bool {
	counts := slices.Collect(maps.Keys(Counts))
	return says(text, append(counts, "outer")...) || slices.ContainsFunc(References(text), func(r *Reference) bool {
		return r.Outer > 0 || r.Relative != "" && r.Relative != "self" && r.Relative != "parent"
	})
}

// says reports whether one of some names stands in a formula that can be read.
func says(text string, names ...string) bool {
	tokens, _ := scan(text)
	return slices.ContainsFunc(tokens, func(t token) bool { return t.Kind == tokenName && slices.Contains(names, t.Text) })
}
