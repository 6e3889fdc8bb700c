package view

import (
	"encoding/json"
	"maps"
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
	What string    `json:"what"`           // what of it is another: "value", "pins", "links", "limits", or one of parts; or that it is "new" or "gone"
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
		for _, part := range parts {
			if otherwise(part.of(was), part.of(item)) {
				others = append(others, Difference{Ref: scene.Ref{Item: item.ID}, Name: item.Name, What: part.what, Here: true})
			}
		}
		for _, key := range keysOf(item, was) {
			d := Difference{Ref: scene.Ref{Item: item.ID, Property: key}, What: property(item, was, key), Here: item.Spec(key) != nil}
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

// parts are what items have besides properties, of what is compared.
var parts = []struct {
	what string
	of   func(*scene.Item) any
}{
	{"name", func(i *scene.Item) any { return i.Name }},
	{"parent", func(i *scene.Item) any { return i.Parent }},
	{"visibility", func(i *scene.Item) any { return []bool{i.Hidden, i.NotInOutput} }},
	{"outline", func(i *scene.Item) any { return i.Path }},
	{"pictures", func(i *scene.Item) any { return i.Frames }},
	{"colours", func(i *scene.Item) any { return i.Stops }},
	{"sound", func(i *scene.Item) any { return i.Sound }},
	{"table", func(i *scene.Item) any { return i.Table }},
	{"limit", func(i *scene.Item) any { return i.Copies }},
}

// keysOf lists the properties of which something is set in one of two states of an item, and its controls, in order.
func keysOf(states ...*scene.Item) []string {
	keys := map[string]bool{}
	for _, item := range states {
		for key := range item.States {
			keys[key] = true
		}
		for _, control := range item.Controls {
			keys[string(control.ID)] = true
		}
	}
	return slices.Sorted(maps.Keys(keys))
}

// property says how a property of an item is otherwise than it was; "" where it is not.
func property(item, was *scene.Item, key string) string {
	switch here, there := item.Spec(key) != nil, was.Spec(key) != nil; {
	case here && !there:
		return "new"
	case there && !here:
		return "gone"
	}
	return differs(was.State(key), item.State(key))
}

func otherwise(was, now any) bool {
	before, _ := json.Marshal(was)
	behind, _ := json.Marshal(now)
	return string(before) != string(behind)
}

// differs says what of a state is another than it was; "" where nothing is.
func differs(was, now *scene.State) string {
	for _, part := range []struct {
		what     string
		was, now any
	}{{"pins", was.Pins, now.Pins}, {"pins", was.Beyond, now.Beyond}, {"value", was.Own, now.Own}, {"links", was.Links, now.Links}, {"limits", []any{was.Min, was.Max, was.Limits}, []any{now.Min, now.Max, now.Limits}}} {
		if otherwise(part.was, part.now) {
			return part.what
		}
	}
	return ""
}
