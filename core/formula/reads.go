package formula

import "wunderkammer/core/scene"

// Reads lists the properties that a link looks at, on an item that hangs on parent: its source, or
// what its formula refers to. Members of rosters are left out: which they are depends on the roster.
func Reads(l *scene.Link, item, parent scene.ID) []scene.Ref {
	return ReadsOf(l, References(l.Formula), item, parent)
}

// ReadsOf is Reads for a link whose references are at hand already.
func ReadsOf(l *scene.Link, references []*Reference, item, parent scene.ID) []scene.Ref {
	if l.Kind != scene.Formula {
		return []scene.Ref{l.Source}
	}
	var out []scene.Ref
	for _, r := range references {
		ref := scene.Ref{Item: r.Item, Property: r.Key, Component: r.Part}
		switch {
		case r.Outer > 0 || ref.Property == scene.OwnVertex:
		case r.Relative == "self":
			ref.Item = item
		case r.Relative == "parent":
			ref.Item = parent
		}
		if ref.Item != "" && ref.Property != "" {
			out = append(out, ref)
		}
	}
	return out
}

// PassesBelow reports whether a link lets through what the links under it make: it does more than
// replace it, or its formula asks for it.
func PassesBelow(l *scene.Link) bool {
	if l.Operation != scene.Replace {
		return true
	}
	if l.Kind != scene.Formula {
		return false
	}
	tokens, _ := scan(l.Formula)
	for _, t := range tokens {
		if t.kind == tokenName && t.text == "below" {
			return true
		}
	}
	return false
}
