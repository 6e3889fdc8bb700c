package link

import "wunderkammer/core/scene"

// Void lists the choices of a link on a property of an item that give nothing there.
func Void(item *scene.Item, spec *scene.Spec, l *scene.Link) []string {
	out := spaceless(l, spec, item.Parent == "")
	state := item.State(spec.Key)
	if _, at := state.Link(l.ID); at == 0 && l.Operation == scene.Multiply && len(state.Pins) == 0 && zero(state.Own, spec) {
		out = append(out, "multiply gives nothing: the own value of "+spec.Name+" is 0")
	}
	return out
}

// VoidOnRow lists the choices of a link on a row that give nothing for any of its members.
func VoidOnRow(c *scene.Composition, s *scene.RosterLink) []string {
	members, l := s.Members(c), s.Link
	if len(members) == 0 {
		return []string{"the row has no members yet"}
	}
	free := true
	for _, m := range members {
		free = free && m.Item.Parent == ""
	}
	out := spaceless(l, members[0].Item.Spec(members[0].Key), free)
	g := l.Stagger
	if g == nil {
		return out
	}
	amounts := g.Gain != 0 || g.Offset != 0 || g.Delay != 0
	for _, x := range g.Offsets {
		amounts = amounts || x != 0
	}
	longest := 0
	for _, row := range s.Rows(c) {
		longest = max(longest, len(row.Members))
	}
	switch {
	case !amounts && (g.By != scene.FromZero || g.Seed != 0):
		out = append(out, "how the members are counted changes nothing while the stagger is 0")
	case amounts && longest == 1 && g.By != scene.FromOne:
		out = append(out, "the stagger changes nothing: a row of one member has nothing to count")
	}
	if spec := members[0].Item.Spec(members[0].Key); spec != nil && spec.Type == scene.Text && (g.Gain != 0 || g.Offset != 0) {
		out = append(out, "a text takes no offset and no gain; stagger the delay, or use a formula with index")
	}
	return out
}

func spaceless(l *scene.Link, spec *scene.Spec, free bool) []string {
	if _, _, vertex := scene.VertexOf(spec.Key); l.World && free && !vertex {
		return []string{"composition space is the same as parent space here: it has no parent"}
	}
	return nil
}

// zero reports whether a value, or the one that a property begins with, is 0 throughout.
func zero(own scene.Value, spec *scene.Spec) bool {
	if own.Absent() {
		own = spec.Default
	}
	for _, x := range own.Nums() {
		if x != 0 {
			return false
		}
	}
	return own.Len() > 0
}
