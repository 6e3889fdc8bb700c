package change

import (
	"fmt"
	"slices"

	"wunderkammer/core/scene"
)

// ItemPath gives a path another drawn form. What was set of vertices that are not in it any more
// goes with them.
type ItemPath struct {
	On
	Path *scene.PathShape `json:"path"`
	// What is set of vertices that come with the form, by key.
	States map[string]*scene.State `json:"states,omitempty"`
}

func (o *ItemPath) apply(p *scene.Project) (Op, Effect, error) {
	_, item, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	if o.Path == nil || item.Kind != scene.PathItem {
		return nil, Effect{}, fmt.Errorf("%s: only a path has vertices, and every path does", item.Name)
	}
	trial := *item
	trial.Path = o.Path.Clone()
	trial.States = map[string]*scene.State{}
	inverse := &ItemPath{On: o.On, Path: item.Path}
	keep := func(key string, s *scene.State) {
		if inverse.States == nil {
			inverse.States = map[string]*scene.State{}
		}
		inverse.States[key] = s
	}
	for key, s := range item.States {
		if _, _, vertex := scene.VertexOf(key); vertex && trial.Spec(key) == nil {
			keep(key, s)
			continue
		}
		trial.States[key] = s
	}
	for key, s := range o.States {
		if _, _, vertex := scene.VertexOf(key); !vertex || s == nil {
			return nil, Effect{}, fmt.Errorf("%s: %q is no vertex", item.Name, clip(key))
		}
		if old := item.States[key]; old != nil {
			keep(key, old)
		}
		trial.States[key] = s.Clone()
	}
	if len(trial.States) == 0 {
		trial.States = nil
	}
	if err := trial.Check(); err != nil {
		return nil, Effect{}, err
	}
	*item = trial
	e := o.structure()
	e.links = len(o.States) > 0
	return inverse, e, nil
}

// ItemFrames gives a picture, a flipbook or the surface of an object other pictures.
type ItemFrames struct {
	On
	Frames []scene.Frame `json:"frames"`
}

func (o *ItemFrames) apply(p *scene.Project) (Op, Effect, error) {
	_, item, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	if err := scene.CheckFrames(item.Kind, o.Frames); err != nil {
		return nil, Effect{}, fmt.Errorf("%s: %w", item.Name, err)
	}
	inverse := &ItemFrames{o.On, item.Frames}
	item.Frames = slices.Clone(o.Frames)
	return inverse, o.structure(), nil
}

// ItemStops gives a gradient other colours between its first and its last.
type ItemStops struct {
	On
	Stops []scene.Stop `json:"stops"`
}

func (o *ItemStops) apply(p *scene.Project) (Op, Effect, error) {
	_, item, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	if err := scene.CheckStops(item.Kind, o.Stops); err != nil {
		return nil, Effect{}, fmt.Errorf("%s: %w", item.Name, err)
	}
	inverse := &ItemStops{o.On, item.Stops}
	item.Stops = slices.Clone(o.Stops)
	return inverse, o.effect(), nil
}
