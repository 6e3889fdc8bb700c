package change

import (
	"fmt"
	"slices"

	"wunderkammer/core/scene"
)

// MarkerSet puts a marker into a composition, or gives one of the same id another name or frame.
type MarkerSet struct {
	In
	Value scene.Marker `json:"value"`
}

func (o *MarkerSet) apply(p *scene.Project) (Op, Effect, error) {
	c, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	if err := o.Value.Check(); err != nil {
		return nil, Effect{}, err
	}
	for _, m := range c.Markers {
		if m.Frame == o.Value.Frame && m.ID != o.Value.ID {
			return nil, Effect{}, fmt.Errorf("%s is at frame %d already, and a frame has one marker", m.Name, m.Frame)
		}
	}
	var inverse Op = &MarkerRemove{o.In, o.Value.ID}
	list := slices.Clone(c.Markers)
	if was, k := c.Marker(o.Value.ID); k >= 0 {
		inverse = &MarkerSet{o.In, was}
		list = slices.Delete(list, k, k+1)
	} else {
		if len(list) >= scene.MaxMarkers {
			return nil, Effect{}, fmt.Errorf("%s has %d markers, which is the limit", c.Name, scene.MaxMarkers)
		}
		if err := claim(p, o.Value.ID); err != nil {
			return nil, Effect{}, err
		}
	}
	at, _ := slices.BinarySearchFunc(list, o.Value.Frame, func(m scene.Marker, frame int) int { return m.Frame - frame })
	c.Markers = slices.Insert(list, at, o.Value)
	return inverse, Effect{Composition: o.Composition}, nil
}

// MarkerRemove takes a marker away.
type MarkerRemove struct {
	In
	Marker scene.ID `json:"marker"`
}

func (o *MarkerRemove) apply(p *scene.Project) (Op, Effect, error) {
	c, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	was, k := c.Marker(o.Marker)
	if k < 0 {
		return nil, Effect{}, fmt.Errorf("the marker is no longer there; it may have been removed in another window")
	}
	c.Markers = slices.Delete(slices.Clone(c.Markers), k, k+1)
	if len(c.Markers) == 0 {
		c.Markers = nil
	}
	p.Release(was.ID)
	return &MarkerSet{o.In, was}, Effect{Composition: o.Composition}, nil
}
