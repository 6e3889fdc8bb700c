package syntax

import (
	"strings"

	"wunderkammer/core/scene"
)

// Many reports whether the reference stands for many: items of a pattern of names, what hangs on an item, members of a row. One that was
// typed with the name of a row is not known to be one before it is bound.
func (r *Reference) Many() bool { return r.Of != "" }

// hangings are what stands behind an item whose children, or all below it, are meant, longer ones first.
var hangings = []struct {
	sign string
	of   scene.GatheringKind
}{{">>", scene.OfBelow}, {">", scene.OfChildren}}

// OfEach has the reference read a property of each of many: by its key where the catalogue has it, else by its name.
func (r *Reference) OfEach(spec *scene.Spec) {
	if scene.Described(spec.Key) != nil {
		r.Key = spec.Key
	} else {
		r.ByName, r.Property = true, spec.Name
	}
}

// Gathering is what a stored reference gathers, without the item where that is told by its place.
func (r *Reference) Gathering() scene.Gathering {
	g := scene.Gathering{Of: r.Of, Key: r.Key}
	if r.Of == scene.OfNames {
		g.Pattern = r.Owner
	} else if r.Relative == "" {
		g.Item = r.Item
	}
	if r.ByName {
		g.Name = r.Property
	}
	return g
}

// readMany reads an owner that stands for many, and returns what is left of it: the item on which they hang. It reports false for any
// other.
func (r *Reference) readMany(owner string) (item string, ok bool) {
	before, ends := strings.CutSuffix(owner, "*")
	if !ends {
		return "", r.readPattern(owner)
	}
	before = strings.TrimSpace(before)
	for _, h := range hangings {
		if item, found := strings.CutSuffix(before, h.sign); found && strings.TrimSpace(item) != "" {
			r.Of = h.of
			return strings.TrimSpace(item), true
		}
	}
	return "", r.readPattern(owner)
}

// readPattern reads an owner that is a pattern of names: one with a * outside of quotes.
func (r *Reference) readPattern(owner string) bool {
	if unquotedIndex(owner, '*') < 0 {
		return false
	}
	r.Of, r.Owner = scene.OfNames, strings.ReplaceAll(owner, `"`, "")
	return true
}

// readBoundMany reads the owner of a stored reference, behind its @, where it stands for many.
func (r *Reference) readBoundMany(owner string) bool {
	if pattern, ok := strings.CutPrefix(owner, "*"); ok {
		r.Of, r.Owner = scene.OfNames, Unquote(pattern)
		return true
	}
	item, ok := r.readMany(owner)
	switch {
	case ok && r.Of == scene.OfNames: // id *
		r.Of, r.Item, r.Owner = scene.OfRow, scene.ID(strings.TrimSpace(strings.TrimSuffix(owner, "*"))), ""
	case ok:
		r.Item = scene.ID(item)
	}
	return ok
}

// manyOf writes an owner as one that stands for many.
func (r *Reference) manyOf(owner string) string { return r.Hung(r.Of, owner) }

// Hung writes who hangs on an owner, where that is what is meant.
func (r *Reference) Hung(of scene.GatheringKind, owner string) string {
	for _, h := range hangings {
		if h.of == of {
			return owner + " " + h.sign + " *"
		}
	}
	return owner
}

// Stored writes a reference to many as it is stored: as it was typed where it is not known who they are, and its property likewise.
func (r *Reference) Stored() string {
	switch {
	case !r.Owned():
		return "{" + r.Typed() + "}"
	case r.Property != "" && r.Key == "" && !r.ByName:
		one := *r
		one.Property = ""
		return strings.TrimSuffix(one.Bound(), "}") + ": " + r.Property + "}"
	}
	return r.Bound()
}

// Pattern writes a pattern of names so that it is read as one, whatever it holds.
func Pattern(pattern string) string {
	if !strings.ContainsAny(pattern, ":{}.~@\n") && strings.TrimSpace(pattern) == pattern {
		return pattern
	}
	parts := strings.Split(pattern, "*")
	for k, part := range parts {
		if part != "" {
			parts[k] = `"` + strings.ReplaceAll(part, `"`, "'") + `"`
		}
	}
	return strings.Join(parts, "*")
}

// gathering reads out who many are.
func (r *Reference) gathering(owner string) string {
	switch r.Of {
	case scene.OfChildren:
		return "the children of " + owner
	case scene.OfBelow:
		return "everything below " + owner
	}
	return "every " + owner
}

// Gathers reports whether a formula gathers values into a list.
func Gathers(text string) bool {
	for _, r := range References(text) {
		if r.Many() {
			return true
		}
	}
	return false
}
