package view

import (
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
)

// ItemLink is a link of one of several selected items, on the property that is asked about.
type ItemLink struct {
	Item scene.ID    `json:"item"`
	Link *scene.Link `json:"link"`
}

// Alike lists the link of the first item that has an id, and those of the other items that are edited together with it.
func Alike(s *session.Session, items []scene.ID, property string, id scene.ID) []ItemLink {
	targets := make([]scene.Ref, len(items))
	for k, item := range items {
		targets[k] = scene.Ref{Item: item, Property: property}
	}
	out := []ItemLink{}
	for k, l := range link.Alike(s.Composition(), targets, id) {
		if l != nil {
			out = append(out, ItemLink{items[k], l})
		}
	}
	return out
}
