package wire

import (
	"wunderkammer/core/layout"
	"wunderkammer/core/link"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// most returns how many targets the links on an item's own properties come to, roughly.
func most(item *scene.Item) (n int) {
	for key, state := range item.States {
		if len(state.Links) == 0 {
			continue
		}
		if spec := item.Spec(key); spec != nil {
			n += spec.Type.Size()
		}
		for _, k := range state.Links {
			if link.Of(k).Formula != nil {
				n++
			}
		}
	}
	return n
}

// lowered is what the links of one stage came to, with the slots that they took behind the layout: other pieces that show the same
// composition come to the same, elsewhere.
type lowered struct {
	stage      layout.Stage
	targets    []Target
	first, end int32
}

// owners tells for each slot of a layout before the world transforms whose it is, and how wide the column is that it stands in; 0 for
// what an item has besides the properties of its kind. What stands once for all items of a kind is nobody's: -1.
type owners struct {
	item, width []int32
}

func ownersOf(l *layout.Layout) *owners {
	o := &owners{make([]int32, l.World), make([]int32, l.World)}
	behind := int32(0)
	for _, k := range l.Kinds {
		for _, column := range k.Columns {
			for row, item := range k.Items {
				if column.Step == 0 {
					item = -1
				}
				for c := range column.Size {
					at := column.First + int32(row)*column.Step + c
					o.item[at], o.width[at] = item, column.Step
				}
			}
			behind = max(behind, column.First+column.Step*int32(len(k.Items)-1)+column.Size)
		}
	}
	for i := range l.Items {
		end := l.World
		if i+1 < len(l.Items) {
			end = l.Extras[i+1]
		}
		for at := max(behind, l.Extras[i]); at < end; at++ {
			o.item[at] = int32(i)
		}
	}
	return o
}

// again puts the targets of a stage that was lowered already to those of another one that shows the same composition. It reports false,
// and puts none, where the two are not laid out alike.
func (t *lowerer) again(of *lowered, at int32) bool {
	stage := t.l.Stages[at]
	by := stage.First - of.stage.First
	if by == 0 || stage.Count != of.stage.Count {
		return false
	}
	for i := of.stage.First; i < of.stage.First+of.stage.Count; i++ {
		if len(t.l.Specs(i)) != len(t.l.Specs(i+by)) {
			return false
		}
	}
	for _, h := range stage.Composition.Handed() {
		if _, slot := t.l.FindAt(stage.Piece, string(h.Offer.ID)); slot < 0 {
			return false
		}
	}
	if t.owners == nil {
		t.owners = ownersOf(t.l)
	}
	m := &moving{lowerer: t, of: of, by: by, next: t.next - of.first}
	m.room()
	t.next += of.end - of.first
	for k := range of.targets {
		t.targets = append(t.targets, of.targets[k])
		m.move(&t.targets[len(t.targets)-1])
	}
	return true
}

// moving moves the targets of one stage to another.
type moving struct {
	*lowerer
	of       *lowered
	by, next int32 // how much further on its items stand, and its slots behind the layout
	on       driven

	// Room for what the targets of the other stage are made of.
	wires  []Wire
	bounds []Bound
	inputs []machine.Source
	places []int32 // slots, and items
}

// room makes room for a whole stage at once.
func (m *moving) room() {
	var wires, bounds, inputs, places int
	for k := range m.of.targets {
		t := &m.of.targets[k]
		wires += len(t.Wires)
		if f := t.Formula; f != nil {
			bounds++
			inputs += len(f.Lane.In)
			places += len(f.Lane.Out) + len(f.Looks) + len(f.Items)
		}
	}
	m.wires, m.bounds = make([]Wire, 0, wires), make([]Bound, 0, bounds)
	m.inputs, m.places = make([]machine.Source, 0, inputs), make([]int32, 0, places)
}

// slot is where what stands in a slot of the one stage stands in the other.
func (m *moving) slot(s int32) int32 {
	l := m.l
	switch {
	case s < 0:
		return s
	case s >= int32(l.Size):
		return s + m.next
	case s >= l.Seen:
		return s + layout.SeenSize*m.by
	case s >= l.World:
		return s + layout.WorldSize*m.by
	}
	item := m.owners.item[s]
	if item < 0 {
		return s
	}
	if item < m.of.stage.First || item >= m.of.stage.First+m.of.stage.Count { // of the piece, which gives the value of a control
		_, own := l.FindAt(m.of.stage.Piece, m.handed[m.on])
		_, other := l.FindAt(l.Stages[l.StageOf(m.on.item+m.by)].Piece, m.handed[m.on])
		return other + s - own
	}
	if width := m.owners.width[s]; width > 0 {
		return s + width*(l.Rows[item+m.by]-l.Rows[item])
	}
	return s - l.Extras[item] + l.Extras[item+m.by]
}

// move turns a copy of a target of the one stage into the target of the other.
func (m *moving) move(t *Target) {
	m.on = driven{t.item, t.property}
	t.Slot, t.Own, t.item = m.slot(t.Slot), m.slot(t.Own), t.item+m.by
	if len(t.Wires) > 0 {
		from := len(m.wires)
		m.wires = append(m.wires, t.Wires...)
		t.Wires = m.wires[from:len(m.wires):len(m.wires)]
		for k := range t.Wires {
			w := &t.Wires[k]
			w.Source, w.Weight = m.slot(w.Source), m.slot(w.Weight)
		}
	}
	if t.Formula != nil {
		t.Formula = m.formula(t.Formula)
	}
	if r := t.Reduced(); r != nil {
		list := *t.List
		list.Reduction = r.Moved(m.slot)
		t.List = &list
	}
}

func (m *moving) formula(of *Bound) *Bound {
	m.bounds = append(m.bounds, Bound{Program: of.Program})
	b := &m.bounds[len(m.bounds)-1]
	from := len(m.inputs)
	for k, s := range of.Lane.In {
		switch kind := of.Program.Inputs[k].Kind; {
		case s.Kind == machine.FromValues || s.Kind == machine.FromOwn:
			s.Slot = m.slot(s.Slot)
		case kind == machine.Look:
			s.X = float64(m.slot(int32(s.X)))
		case kind == machine.ItemIndex && s.X == s.X:
			s.X += float64(m.by)
		}
		m.inputs = append(m.inputs, s)
	}
	b.Lane.In = m.inputs[from:len(m.inputs):len(m.inputs)]
	b.Lane.Out = m.moved(of.Lane.Out, m.slot)
	b.Looks = m.moved(of.Looks, m.slot)
	b.Items = m.moved(of.Items, func(i int32) int32 { return i + m.by })
	return b
}

// moved returns a list with each of its places moved; nil for none.
func (m *moving) moved(list []int32, move func(int32) int32) []int32 {
	if len(list) == 0 {
		return nil
	}
	from := len(m.places)
	for _, at := range list {
		m.places = append(m.places, move(at))
	}
	return m.places[from:len(m.places):len(m.places)]
}
