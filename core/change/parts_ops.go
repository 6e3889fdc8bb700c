package change

import (
	"cmp"
	"fmt"
	"maps"
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
	if err := o.Path.Check(); err != nil {
		return nil, Effect{}, fmt.Errorf("%s: %w", item.Name, err)
	}
	trial := *item
	trial.Path, trial.States = o.Path.Clone(), maps.Clone(item.States)
	inverse := &ItemPath{On: o.On, Path: item.Path}
	keep := func(key string, s *scene.State) {
		if inverse.States == nil {
			inverse.States = map[string]*scene.State{}
		}
		inverse.States[key] = s
		delete(trial.States, key)
	}
	var gone []*scene.Link
	for key, s := range item.States {
		if _, _, vertex := scene.VertexOf(key); vertex && (o.States[key] != nil || trial.Spec(key) == nil) {
			keep(key, s)
			gone = append(gone, s.Links...)
		}
	}
	for key, s := range trial.TakeWeights(gone...) {
		keep(key, s)
		gone = append(gone, s.Links...)
	}
	var come []*scene.Link
	for key, s := range o.States {
		_, _, vertex := scene.VertexOf(key)
		_, weight := scene.WeightOf(key)
		if !vertex && !weight || s == nil || trial.States[key] != nil {
			return nil, Effect{}, fmt.Errorf("%s: %q is not a vertex", item.Name, clip(key))
		}
		*trial.Edit(key) = *s.Clone()
		come = append(come, s.Links...)
	}
	if len(trial.States) == 0 {
		trial.States = nil
	}
	if err := trial.Check(); err != nil {
		return nil, Effect{}, err
	}
	p.Release(scene.LinkIDs(gone)...)
	if err := claim(p, scene.LinkIDs(come)...); err != nil {
		p.Claim(scene.LinkIDs(gone)...)
		return nil, Effect{}, err
	}
	*item = trial
	e := o.structure()
	e.wired = len(o.States) > 0
	return inverse, e, nil
}

// ItemFrames gives a picture, a flipbook or the surface of an object other pictures; a picture can become a flipbook with it, or that a
// picture.
type ItemFrames struct {
	On
	Frames []scene.Frame `json:"frames"`
	Kind   scene.Kind    `json:"kind,omitempty"` // empty: it stays what it is
}

func (o *ItemFrames) apply(p *scene.Project) (Op, Effect, error) {
	_, item, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	to := cmp.Or(o.Kind, item.Kind)
	if to != item.Kind && (item.Kind.Class() != scene.Pictured || to.Class() != scene.Pictured) {
		return nil, Effect{}, fmt.Errorf("%s is %s; only a picture can become a flipbook, or the other way round", item.Name, item.Kind.Info().One())
	}
	if err := scene.CheckFrames(to, o.Frames); err != nil {
		return nil, Effect{}, fmt.Errorf("%s: %w", item.Name, err)
	}
	turned := &scene.Item{Kind: to, Controls: item.Controls, States: item.States}
	for key := range item.States {
		if to != item.Kind && turned.Spec(key) == nil {
			return nil, Effect{}, fmt.Errorf("%s has values of its frame number; remove them before it becomes a picture", item.Name)
		}
	}
	inverse := &ItemFrames{On: o.On, Frames: item.Frames}
	if to != item.Kind {
		inverse.Kind = item.Kind
	}
	item.Kind, item.Frames = to, slices.Clone(o.Frames)
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

// ItemCopies gives copies another limit, or another path to stand along.
type ItemCopies struct {
	On
	Copies *scene.CopiesShape `json:"copies"` // absent: the usual limit, and no path
}

func (o *ItemCopies) apply(p *scene.Project) (Op, Effect, error) {
	c, item, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	if item.Kind != scene.CopiesItem {
		return nil, Effect{}, fmt.Errorf("%s is %s; only copies have a limit and a path", item.Name, item.Kind.Info().One())
	}
	if err := o.Copies.Check(); err != nil {
		return nil, Effect{}, fmt.Errorf("%s: %w", item.Name, err)
	}
	inverse := &ItemCopies{o.On, item.Copies}
	item.Copies = nil
	if o.Copies != nil && *o.Copies != (scene.CopiesShape{}) {
		if path := c.Item(o.Copies.Along); o.Copies.Along != "" && path != nil && path.Kind != scene.PathItem {
			item.Copies = inverse.Copies
			return nil, Effect{}, fmt.Errorf("copies can only stand along a path, and %s is %s", path.Name, path.Kind.Info().One())
		}
		kept := *o.Copies
		item.Copies = &kept
	}
	if err := c.CheckLanes(); err != nil {
		item.Copies = inverse.Copies
		return nil, Effect{}, err
	}
	e := o.structure()
	e.wired = true // where copies stand depends on where the path does
	return inverse, e, nil
}

// ItemSound lets a sound item play another sound, or none; what follows its loudness follows that of the new one.
type ItemSound struct {
	On
	Sound *scene.Sound `json:"sound"`
}

func (o *ItemSound) apply(p *scene.Project) (Op, Effect, error) {
	_, item, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	if item.Kind != scene.SoundItem {
		return nil, Effect{}, fmt.Errorf("%s is %s and plays no sound", item.Name, item.Kind.Info().One())
	}
	if err := o.Sound.Check(); err != nil {
		return nil, Effect{}, fmt.Errorf("%s: %w", item.Name, err)
	}
	inverse := &ItemSound{o.On, item.Sound}
	item.Sound = nil
	if o.Sound != nil {
		kept := *o.Sound
		item.Sound = &kept
	}
	return inverse, o.structure(), nil
}

// ItemTable gives a table item other columns. What reads one that stays goes on with that.
type ItemTable struct {
	On
	Table *scene.Table `json:"table"`
}

func (o *ItemTable) apply(p *scene.Project) (Op, Effect, error) {
	_, item, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	if item.Kind != scene.TableItem {
		return nil, Effect{}, fmt.Errorf("%s is %s and has no columns", item.Name, item.Kind.Info().One())
	}
	if err := o.Table.Check(); err != nil {
		return nil, Effect{}, fmt.Errorf("%s: %w", item.Name, err)
	}
	inverse := &ItemTable{o.On, item.Table}
	item.Table = o.Table.Clone()
	e := o.structure()
	e.wired = true // formulas find columns by their place
	return inverse, e, nil
}

// SoundStart lets the sound of an item begin at another frame, which may be one before the composition.
type SoundStart struct {
	On
	Start int `json:"start"`
}

func (o *SoundStart) apply(p *scene.Project) (Op, Effect, error) {
	_, item, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	if item.Sound == nil {
		return nil, Effect{}, fmt.Errorf("%s has no sound that could begin", item.Name)
	}
	moved := *item.Sound
	moved.Start = o.Start
	if err := moved.Check(); err != nil {
		return nil, Effect{}, fmt.Errorf("%s: %w", item.Name, err)
	}
	inverse := &SoundStart{o.On, item.Sound.Start}
	item.Sound = &moved
	return inverse, o.structure(), nil
}
