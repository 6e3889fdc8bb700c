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

// Checks looks the composition of a plan over: links whose source is gone or does not fit, circles,
// links hidden by a later one, controls that drive nothing.
func Checks(c *scene.Composition, p *Plan) []Check {
	var out []Check
	drives := link.Drives(c)
	for i, item := range p.Layout.Items {
		if len(item.States) == 0 && len(item.Controls) == 0 {
			continue
		}
		for _, spec := range p.Layout.Specs(int32(i)) {
			at := scene.Ref{Item: item.ID, Property: spec.Key}
			state := item.State(spec.Key)
			for k, l := range state.Links {
				if s := linkCheck(p, spec, l); s != "" {
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
	if p.Circle != nil {
		out = append(out, Check{Error, p.Circle.Refs[0], "links run in a circle: " + p.Circle.String()})
	}
	return out
}

// linkCheck says what keeps a link from working, or nothing.
func linkCheck(p *Plan, target *scene.Spec, l *scene.Link) string {
	at := p.Layout.Index(l.Source.Item)
	if at < 0 {
		return "the link's source was removed; remove the link, or undo the removal"
	}
	item := p.Layout.Items[at]
	source, _ := p.Layout.Find(l.Source.Item, l.Source.Property)
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
