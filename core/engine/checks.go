package engine

import (
	"fmt"

	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// Severity tells a mistake from a hint.
type Severity string

// The severities.
const (
	Error   Severity = "error"
	Warning Severity = "warning"
)

// Check is one thing that is wrong with a composition, or may be.
type Check struct {
	Severity Severity  `json:"severity"`
	At       scene.Ref `json:"at"`
	Sentence string    `json:"sentence"`
}

// Checks looks a composition over: links whose source is gone or does not fit, circles, links
// hidden by a later one, controls that drive nothing.
func Checks(c *scene.Composition) []Check {
	var out []Check
	items, _ := c.Tree()
	drives := link.Drives(c)
	for _, item := range items {
		for _, spec := range item.Specs() {
			at := scene.Ref{Item: item.ID, Property: spec.Key}
			state := item.State(spec.Key)
			for k, l := range state.Links {
				if s := linkCheck(c, spec, l); s != "" {
					out = append(out, Check{Error, at, c.NameOf(at) + ": " + s})
				} else if above := hidden(state.Links[k+1:], l); above {
					out = append(out, Check{Warning, at, fmt.Sprintf("%s: the link from %s is hidden by one above it", c.NameOf(at), c.NameOf(l.Source))})
				}
			}
		}
		for _, control := range item.Controls {
			at := scene.Ref{Item: item.ID, Property: string(control.ID)}
			if drives[at] == 0 {
				out = append(out, Check{Warning, at, c.NameOf(at) + " drives nothing yet"})
			}
		}
	}
	if _, circle := New(c); circle != nil {
		out = append(out, Check{Error, circle.Refs[0], "links run in a " + circle.Error()[len("that would make a "):]})
	}
	return out
}

// linkCheck says what keeps a link from working, or nothing.
func linkCheck(c *scene.Composition, target *scene.Spec, l *scene.Link) string {
	item := c.Item(l.Source.Item)
	if item == nil {
		return "the link's source was removed; remove the link, or undo the removal"
	}
	source := item.Spec(l.Source.Property)
	if source == nil {
		return fmt.Sprintf("the control of %s that drove this was removed; remove the link, or undo the removal", item.Name)
	}
	if _, err := link.FitOf(source, l.Source.Component, target, l.Component); err != nil {
		return err.Error()
	}
	return ""
}

// hidden reports whether a link of those above replaces all that l does.
func hidden(above []*scene.Link, l *scene.Link) bool {
	for _, a := range above {
		if !a.Off && (a.Component == "" || a.Component == l.Component) {
			return true
		}
	}
	return false
}
