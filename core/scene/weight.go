package scene

import (
	"fmt"
	"maps"
	"slices"
	"strings"
)

const weightPrefix = "weight:"

// WeightKey returns the key of the property that is the weight of a link, on the item that the link
// is on: a percentage, 100 where nothing was set of it.
func WeightKey(link ID) string { return weightPrefix + string(link) }

// WeightOf reads a key made by WeightKey.
func WeightOf(key string) (link ID, ok bool) {
	id, ok := strings.CutPrefix(key, weightPrefix)
	return ID(id), ok
}

// groupLinks is the group of the weights of links.
const groupLinks = "Links"

// weightSpec returns the weight of a link as a property; nil where the item has no such link.
func (i *Item) weightSpec(key string) *Spec {
	id, ok := WeightOf(key)
	if !ok {
		return nil
	}
	for target, s := range i.States {
		if l, at := s.Link(id); l != nil {
			name := target
			if spec := i.Spec(target); spec != nil {
				name = spec.Name
			}
			if len(s.Links) > 1 {
				return weightNamed(key, fmt.Sprintf("weight of link %d on %s", at+1, name))
			}
			return weightNamed(key, "weight of the link on "+name)
		}
	}
	return nil
}

// Weights returns the weights of all links of the item, as properties.
func (i *Item) Weights() (specs []*Spec) {
	for _, target := range slices.Sorted(maps.Keys(i.States)) {
		for _, l := range i.States[target].Links {
			specs = append(specs, i.Spec(WeightKey(l.ID)))
		}
	}
	return specs
}

func weightNamed(key, name string) *Spec {
	return &Spec{Key: key, Name: name, Group: groupLinks, Type: Number, Unit: Percent, Default: Num(100), SoftMax: 100, Min: 0, Max: 100, Step: 1}
}

// Weights is what was set of the weights of links, by WeightKey.
type Weights map[string]*State

// TakeWeights takes what was set of the weights of some links off an item, and of the weights of links on
// those, and so on; nil where there is nothing.
func (i *Item) TakeWeights(links ...*Link) Weights {
	var taken Weights
	links = slices.Clone(links) // it grows by others, and may be the list of a property
	for len(links) > 0 {
		l := links[len(links)-1]
		links = links[:len(links)-1]
		key := WeightKey(l.ID)
		s := i.States[key]
		if s == nil {
			continue
		}
		if taken == nil {
			taken = Weights{}
		}
		taken[key] = s
		delete(i.States, key)
		links = append(links, s.Links...)
	}
	if len(i.States) == 0 {
		i.States = nil
	}
	return taken
}

// WeightsOf returns copies of what was set of the weights of some links, as TakeWeights finds it.
func (i *Item) WeightsOf(links ...*Link) Weights {
	return (&Item{States: maps.Clone(i.States)}).TakeWeights(links...).Clone()
}

// PutWeights gives an item back what TakeWeights took.
func (i *Item) PutWeights(w Weights) {
	for key, s := range w {
		*i.Edit(key) = *s.Clone()
		i.Tidy(key)
	}
}

// Upgrade is that of a project, for what was set of weights.
func (w Weights) Upgrade(format int) {
	for _, s := range w {
		s.Upgrade(format)
	}
}

// Clone returns a copy that shares nothing that can be changed.
func (w Weights) Clone() Weights {
	if w == nil {
		return nil
	}
	out := Weights{}
	for key, s := range w {
		out[key] = s.Clone()
	}
	return out
}

// Check refuses weights of other links than the given ones and those that stand on their weights.
func (w Weights) Check(links ...*Link) error {
	trial := &Item{States: map[string]*State{}}
	for key, s := range w {
		if s == nil {
			return fmt.Errorf("what was set of a weight is empty")
		}
		trial.States[key] = s
		if err := CheckState(weightNamed(key, "the weight of a link"), s); err != nil {
			return err
		}
	}
	trial.TakeWeights(links...)
	for key := range trial.States {
		return noLink(key)
	}
	return nil
}

// Links lists the links that drive any of the weights.
func (w Weights) Links() []*Link {
	var out []*Link
	for _, s := range w {
		out = append(out, s.Links...)
	}
	return out
}

func noLink(key string) error {
	return fmt.Errorf("%q is the weight of a link that is not there", Clip(key))
}

// leftWeights lists the keys of weights whose links are not there.
func (i *Item) leftWeights() []string {
	var links []*Link
	trial := &Item{States: map[string]*State{}}
	for key, s := range i.States {
		if _, weight := WeightOf(key); weight {
			trial.States[key] = s
		} else if s != nil {
			links = append(links, s.Links...)
		}
	}
	if len(trial.States) > 0 {
		trial.TakeWeights(links...)
	}
	return slices.Sorted(maps.Keys(trial.States))
}

// DropLeftWeights forgets what was set of weights whose links are not there, and says of how many.
func (i *Item) DropLeftWeights() int {
	left := i.leftWeights()
	for _, key := range left {
		delete(i.States, key)
		i.Tidy(key)
	}
	return len(left)
}
