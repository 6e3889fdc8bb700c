package view

import (
	"encoding/json"
	"slices"

	"wunderkammer/core/scene"
	"wunderkammer/core/session"
)

// OwnBefore is a state of a composition that is kept.
type OwnBefore struct {
	ID          scene.ID `json:"id"`
	Name        string   `json:"name"`
	Composition scene.ID `json:"composition"`
}

// BeforeOf returns a project that holds a state alone, to be opened beside the one that it is of.
func BeforeOf(s *session.Session, id scene.ID) (*scene.Project, error) {
	b, _ := s.Project.Before(id)
	if b == nil {
		return nil, scene.ErrNoBefore
	}
	return &scene.Project{ID: s.Project.ID, Name: b.Name, Compositions: []*scene.Composition{b.Value}}, nil
}

// Difference is something that is otherwise now than in a state that was kept.
type Difference struct {
	Ref  scene.Ref `json:"ref"`            // the property, where it is about one, or the item
	Name string    `json:"name"`           // of the item, and the property
	What string    `json:"what"`           // what of it is another: "value", "pins", "links", "limits"; or that it is "new" or "gone"
	Here bool      `json:"here,omitempty"` // it is there now
}

// MaxDifferences bounds how many are listed.
const MaxDifferences = 400

// DifferencesOf lists what is otherwise now than in a state that was kept: items that are new or gone, and properties and controls
// whose value, pins, links or limits are others. Controls come first.
func DifferencesOf(s *session.Session, id scene.ID) ([]Difference, error) {
	b, _ := s.Project.Before(id)
	if b == nil {
		return nil, scene.ErrNoBefore
	}
	var controls, others []Difference
	now := s.Composition()
	for _, item := range now.Items {
		was := b.Value.Item(item.ID)
		if was == nil {
			others = append(others, Difference{Ref: scene.Ref{Item: item.ID}, Name: item.Name, What: "new", Here: true})
			continue
		}
		keys := map[string]bool{}
		for key := range item.States {
			keys[key] = true
		}
		for key := range was.States {
			keys[key] = true
		}
		for _, control := range slices.Concat(item.Controls, was.Controls) {
			keys[string(control.ID)] = true
		}
		sorted := make([]string, 0, len(keys))
		for key := range keys {
			sorted = append(sorted, key)
		}
		slices.Sort(sorted)
		for _, key := range sorted {
			d := Difference{Ref: scene.Ref{Item: item.ID, Property: key}, Here: item.Spec(key) != nil}
			switch there := was.Spec(key) != nil; {
			case d.Here && !there:
				d.What = "new"
			case there && !d.Here:
				d.What = "gone"
			default:
				d.What = differs(was.State(key), item.State(key))
			}
			if d.What == "" {
				continue
			}
			of := now
			if !d.Here {
				of = b.Value
			}
			d.Name = of.NameOf(d.Ref)
			if item.Control(scene.ID(key)) != nil || was.Control(scene.ID(key)) != nil {
				controls = append(controls, d)
			} else {
				others = append(others, d)
			}
		}
	}
	for _, was := range b.Value.Items {
		if now.Item(was.ID) == nil {
			others = append(others, Difference{Ref: scene.Ref{Item: was.ID}, Name: was.Name, What: "gone"})
		}
	}
	all := append(controls, others...)
	return all[:min(len(all), MaxDifferences)], nil
}

// differs says what of a state is another than it was; "" where nothing is.
func differs(was, now *scene.State) string {
	for _, part := range []struct {
		what     string
		was, now any
	}{{"pins", was.Pins, now.Pins}, {"pins", was.Beyond, now.Beyond}, {"value", was.Own, now.Own}, {"links", was.Links, now.Links}, {"limits", []any{was.Min, was.Max, was.Limits}, []any{now.Min, now.Max, now.Limits}}} {
		before, _ := json.Marshal(part.was)
		behind, _ := json.Marshal(part.now)
		if string(before) != string(behind) {
			return part.what
		}
	}
	return ""
}
