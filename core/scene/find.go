package scene

import (
	"fmt"
	"slices"
	"sort"
	"strconv"
	"strings"
)

// NameOf returns how the property of a reference is shown: `Owner: property` or
// `Owner: property.x`. What is missing is named by its id.
func (c *Composition) NameOf(ref Ref) string {
	owner, property := string(ref.Item), ref.Property
	if of, n, lane := LaneOf(ref.Item); lane {
		if item := c.Item(of); item != nil {
			owner = fmt.Sprintf("copy %d of %s", n, item.Name)
		}
		if spec := byKey[Copy][ref.Property]; spec != nil {
			property = spec.Name
		}
	}
	if item := c.Item(ref.Item); item != nil {
		owner = item.Name
		if spec := item.Spec(ref.Property); spec != nil {
			property = spec.Name
		}
	}
	if ref.Component != "" {
		property += "." + ref.Component
	}
	return owner + ": " + property
}

// Find reads `Owner: property` or `Owner: property.x`, with or without braces, and returns what
// it points at. Case and spaces at the ends do not matter. The error says which part was not
// found and which names come nearest. A copy is called by the name of what shows it and its number: `Beads 3`.
func (c *Composition) Find(text string) (Ref, error) {
	text = strings.TrimSpace(text)
	if strings.HasPrefix(text, "{") && strings.HasSuffix(text, "}") {
		text = text[1 : len(text)-1]
	}
	colon := strings.LastIndex(text, ":")
	if colon < 0 {
		return Ref{}, fmt.Errorf("%q is not a property; write it as Owner: property", text)
	}
	owner, property := fold(text[:colon]), fold(text[colon+1:])
	var owners []*Item
	var names []string
	for _, item := range c.Items {
		names = append(names, item.Name)
		if fold(item.Name) == owner {
			owners = append(owners, item)
		}
	}
	if len(owners) == 0 {
		owners = c.copyNamed(owner)
	}
	if len(owners) == 0 {
		return Ref{}, fmt.Errorf("there is no item named %q in this composition%s", strings.TrimSpace(text[:colon]), nearest(owner, names))
	}
	names = nil
	var found []Ref
	for _, item := range owners {
		for _, spec := range item.Specs() {
			names = append(names, spec.Name)
			if fold(spec.Name) == property {
				found = append(found, Ref{Item: item.ID, Property: spec.Key})
			}
			for _, component := range spec.Type.Components() {
				if fold(spec.Name)+"."+component == property {
					found = append(found, Ref{Item: item.ID, Property: spec.Key, Component: component})
				}
			}
		}
	}
	switch len(found) {
	case 0:
		return Ref{}, fmt.Errorf("%s has no property named %q%s", owners[0].Name, strings.TrimSpace(text[colon+1:]), nearest(property, names))
	case 1:
		return found[0], nil
	}
	return Ref{}, fmt.Errorf("%q could mean %d different properties; rename one of them", text, len(found))
}

// copyNamed returns the copy that is called `Beads 3` where Beads shows copies, or none.
func (c *Composition) copyNamed(folded string) []*Item {
	at := strings.LastIndex(folded, " ")
	n, err := strconv.Atoi(folded[at+1:])
	if at < 0 || err != nil || n < 1 {
		return nil
	}
	for _, item := range c.Items {
		if fold(item.Name) == folded[:at] && n <= item.MostCopies() {
			return item.Lanes()[n-1 : n]
		}
	}
	return nil
}

func fold(s string) string { return strings.ToLower(strings.TrimSpace(s)) }

// nearest returns the tail of a sentence that offers the names closest to what was typed.
func nearest(typed string, names []string) string {
	offer := Nearest(typed, names)
	if len(offer) == 0 {
		return ""
	}
	return "; nearest: " + strings.Join(offer, ", ")
}

// Nearest returns up to three of some names that come close to what was typed, the closest first.
func Nearest(typed string, names []string) []string {
	type candidate struct {
		name     string
		distance int
	}
	typed = fold(typed)
	var near []candidate
	seen := map[string]bool{}
	for _, name := range names {
		if seen[name] || len(name) > 60 {
			continue
		}
		seen[name] = true
		if d := distance(typed, fold(name)); d <= 1+len(typed)/3 || (len(typed) > 2 && strings.Contains(fold(name), typed)) {
			near = append(near, candidate{name, d})
		}
	}
	sort.SliceStable(near, func(i, j int) bool { return near[i].distance < near[j].distance })
	offer := make([]string, 0, 3)
	for _, n := range near[:min(3, len(near))] {
		offer = append(offer, n.name)
	}
	return offer
}

// distance is the edit distance of Levenshtein.
func distance(a, b string) int {
	x, y := []rune(a), []rune(b)
	row := make([]int, len(y)+1)
	for j := range row {
		row[j] = j
	}
	for i := range x {
		last := row[0]
		row[0] = i + 1
		for j := range y {
			change := last
			if x[i] != y[j] {
				change++
			}
			last = row[j+1]
			row[j+1] = min(change, row[j+1]+1, row[j]+1)
		}
	}
	return row[len(y)]
}

// Assets lists the pictures and sounds that a project has, each once: in its compositions, as they were kept before, and in its recipes.
func (p *Project) Assets() []AssetID {
	var lists [][]*Item
	for _, c := range p.Compositions {
		lists = append(lists, c.Items)
	}
	for _, b := range p.Befores {
		lists = append(lists, b.Value.Items)
	}
	for _, r := range p.Recipes {
		lists = append(lists, r.Items)
	}
	var out []AssetID
	seen := map[AssetID]bool{}
	for _, item := range slices.Concat(lists...) {
		for _, id := range item.assets() {
			if !seen[id] {
				seen[id] = true
				out = append(out, id)
			}
		}
	}
	return out
}

// assets lists what an item shows and plays.
func (i *Item) assets() (out []AssetID) {
	for _, f := range i.Frames {
		out = append(out, f.Asset)
	}
	if i.Sound != nil {
		out = append(out, i.Sound.Asset)
	}
	return out
}
