package syntax

import (
	"maps"
	"slices"
	"strings"
)

// Unbound reports whether a formula holds names in place of ids.
func Unbound(text string) bool {
	return slices.ContainsFunc(References(text), func(r *Reference) bool {
		return !r.Owned() || r.Key == "" && r.Property != "" && !r.ByName
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
	for k, t := range tokens {
		if t.Kind == tokenName && slices.Contains(names, t.Text) && !called(tokens, k) {
			return true
		}
	}
	return false
}

// called reports whether a name is that of a function: count is one, too.
func called(tokens []token, k int) bool {
	return k+1 < len(tokens) && tokens[k+1].Kind == tokenSign && tokens[k+1].Text == "("
}

// Recounted returns a formula with others in place of the words that count the members of a row; outer is how many rows further out is
// meant.
func Recounted(text string, count func(word string, outer int) string) string {
	tokens, _ := scan(text)
	var b strings.Builder
	last, outer := 0, 0
	for k, t := range tokens {
		if t.Kind == tokenName && t.Text == "outer" {
			outer++
			continue
		}
		_, counts := Counts[t.Text]
		if t.Kind == tokenName && counts && !called(tokens, k) {
			b.WriteString(text[last:tokens[k-outer].at] + count(t.Text, outer))
			last = t.end
		}
		outer = 0
	}
	return b.String() + text[last:]
}
