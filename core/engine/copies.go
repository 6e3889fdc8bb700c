package engine

import (
	"math"
	"slices"

	"wunderkammer/core/layout"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// Copied is an item as a copy shows it.
type Copied struct {
	Item    int32   // the item
	Lane    int32   // the copy that shows it, the innermost; -1 for none
	Opacity float64 // that the copies around it leave of its own, 0 to 1
	// Tint is the colour that the copy mixes into all colours of the item, and Tinted how much of it, 0 to 1.
	Tint   [3]float64
	Tinted float64
	Late   bool // it is shown as it was at another time
	// Looks are slots of the item, besides those of its place, that differ from copy to copy where they are late.
	Looks []int32
	// Through leads from where the item stands by itself to where the copy shows it.
	Through num.Affine
}

// copying is what is known of the copies of one item, until links or pins come or go.
type copying struct {
	first, most int32   // its copies
	stages      []int32 // what pieces below it show, the outer before the inner
	below       []int32 // what hangs on it, what holds something before that; without what items of kind copies among them show
	drawn       []int32 // what shows of that, the front first, items of kind copies among them
	within      []int32 // itself, and items of kind copies that hang on it, however deep
	late        bool    // copies can show it as it is at another time
	show, time  int32   // slots of whether they do so all together, and of that time
	lively      []int32 // slots of all below and of copies of it that can change from frame to frame, where late
	// What the slots were at other times, used again from frame to frame.
	frames, numbers []float64
	rows            [][]float64
}

// Alone returns item i as it is where no copy shows it.
func (p *Plan) Alone(i int32) *Copied { return &Copied{Item: i, Lane: -1, Opacity: p.Opacity(i)} }

// Shown reports whether item i is drawn by itself: it is not hidden, and no copies show it in its place.
func (p *Plan) Shown(i int32) bool { return !p.Layout.Hidden[i] && !p.inside[i] }

// Inside reports whether copies show item i in its place.
func (p *Plan) Inside(i int32) bool {
	p.freshCopies()
	return p.inside[i]
}

// findCopies finds out what items show many times.
func (p *Plan) findCopies() {
	p.copied, p.copiedFor = nil, p.wirings
	l := p.Layout
	p.inside = make([]bool, len(l.Items))
	if !slices.ContainsFunc(l.Items, func(i *scene.Item) bool { return i.Kind == scene.CopiesItem }) {
		return
	}
	p.copied, p.looks = map[int32]*copying{}, map[int32][]int32{}
	all := map[int32][]int32{} // by item of kind copies: all below it
	for _, i := range l.Painted() {
		item := l.Items[i]
		on := l.Holder(i)
		if item.Kind == scene.CopiesItem {
			k := &copying{}
			k.first, k.most = l.Lanes(i)
			_, k.show = l.FindAt(i, scene.CopiesShow)
			_, k.time = l.FindAt(i, scene.CopiesTime)
			_, pinned := p.trackOf[k.show]
			k.late = pinned || p.wired[k.show] || p.start[k.show] == scene.OwnTime
			for n := range k.most {
				k.late = k.late || p.wired[l.Slot(k.first+n, laneLate)]
			}
			p.copied[i], k.within = k, []int32{i}
		}
		nearest := true
		for ; on >= 0; on = l.Holder(on) {
			k := p.copied[on]
			if k == nil {
				continue
			}
			p.inside[i] = true
			all[on] = append(all[on], i)
			if item.Kind == scene.CopiesItem {
				k.within = append(k.within, i)
			}
			if !nearest {
				continue
			}
			nearest = false
			if l.StageOf(i) == l.StageOf(on) {
				k.below = append(k.below, i)
			}
			if at := l.Showing(i); at > 0 {
				k.stages = append(k.stages, at)
			}
			if kind := item.Kind; !l.Hidden[i] && (kind == scene.CopiesItem || kind.Drawn()) {
				k.drawn = append(k.drawn, i)
			}
		}
	}
	var changes []bool
	for i, k := range p.copied {
		if !k.late {
			continue
		}
		if changes == nil {
			changes = p.restless()
		}
		for _, j := range all[i] {
			lively := p.livelyOf(j, changes)
			k.lively = append(k.lively, lively...)
			p.looks[j] = slices.DeleteFunc(slices.Clone(lively), func(s int32) bool { return p.placing(j, s) })
			if inner := p.copied[j]; inner != nil {
				for lane := inner.first; lane < inner.first+inner.most; lane++ {
					k.lively = append(k.lively, p.livelyOf(lane, changes)...)
				}
			}
		}
	}
}

// livelyOf lists the slots of an item that change.
func (p *Plan) livelyOf(i int32, changes []bool) (out []int32) {
	if p.Layout.Apart(i) { // it is worked out anew for the time at which it is shown
		return nil
	}
	for n, spec := range p.Layout.Specs(i) {
		first := p.Layout.Slot(i, n)
		for s := first; s < first+int32(spec.Type.Size()); s++ {
			if changes[s] {
				out = append(out, s)
			}
		}
	}
	return out
}

// placing reports whether a slot of an item is one of its place.
func (p *Plan) placing(i, slot int32) bool {
	for k, first := range p.place[i] {
		if slot >= first && slot < first+layout.PlaceSizes[k] {
			return true
		}
	}
	return false
}

// lateSlots lists the slots that copies look at at other times.
func (p *Plan) lateSlots() (out []int32) {
	for _, k := range p.copied {
		out = append(out, k.lively...)
	}
	slices.Sort(out) // maps have no order; histories do
	return slices.Compact(out)
}

// Copies calls with all that the copies of item i show at the frame last evaluated, from the back to the front: at most as much as
// scene.MaxCopied. What a call is given is used again for the next. During a call the plan answers for the item as the copy shows
// it: its values, where it stands, its shape.
func (p *Plan) Copies(i int32, report func(*Copied)) {
	p.freshCopies()
	if a := p.apartOf(i); a != nil {
		p.copiesApart(a, i, report)
		return
	}
	k := p.copied[i]
	if k == nil {
		return
	}
	p.alone = make(map[int32]num.Affine, len(k.within))
	for _, j := range k.within {
		p.alone[j] = p.posed(&p.now, j).Affine
	}
	b := &budget{report: report, items: scene.MaxCopied, lanes: maxLanesShown}
	p.copies(i, p.now.frame, Copied{Opacity: 1, Lane: -1}, b)
}

// maxLanesShown bounds the copies that are gone through in one frame, with those of copies in copies.
const maxLanesShown = 4 * scene.MaxCopied

// budget is how much is still shown.
type budget struct {
	report       func(*Copied)
	items, lanes int
}

func (b *budget) spent() bool { return b.items <= 0 || b.lanes <= 0 }

func (b *budget) show(c *Copied) {
	if b.items--; b.items >= 0 {
		b.report(c)
	}
}

// through notes where a copy takes what hangs on the item that shows it: from where that stands by itself, which may lie in copies,
// too.
func (p *Plan) through(one *Copied) {
	on := p.Layout.Parents[one.Item]
	for on >= 0 && p.copied[on] == nil {
		on = p.Layout.Parents[on]
	}
	one.Through = num.Identity
	if on >= 0 { // and not only by way of a piece
		alone := p.alone[on]
		if back, ok := alone.Inverse(); ok {
			shown := p.posed(&p.now, on)
			one.Through = shown.Mul(&back)
		}
	}
	carry, _ := p.carry(one.Item)
	one.Through = carry.Mul(&one.Through)
}

// freshCopies finds out what copies show where links or pins came or went.
func (p *Plan) freshCopies() {
	if p.copiedFor == p.wirings {
		return
	}
	if p.findCopies(); !p.past.Keeps(p.lateSlots()) {
		p.findHistories()
	}
}

// copies is Copies of an item as the copies around it show it, which is as it was at a frame.
func (p *Plan) copies(i int32, frame float64, around Copied, b *budget) {
	k := p.copied[i]
	if k == nil || len(k.drawn) == 0 {
		return
	}
	values, l := p.now.values, p.Layout
	shown, last := p.shownCopies(i, k)
	if most := int32(b.items/len(k.drawn) + 1); shown > most { // no more than these are drawn
		shown, last = most, 1
	}
	if p.inside[i] { // the item stands where the copy around it shows it
		for n := range shown {
			p.placeItem(&p.now, k.first+n)
		}
	}
	base := make([]float64, len(k.lively))
	for n, s := range k.lively {
		base[n] = values[s]
	}
	own := p.posed(&p.now, i)
	worlds := make([][]float64, len(k.below))
	for n, j := range k.below {
		worlds[n] = slices.Clone(values[l.WorldOf(j) : l.WorldOf(j)+13])
	}
	var frames []float64
	var rows [][]float64
	then := frame
	if k.late && values[k.show] == scene.OwnTime {
		then = l.Composition.Held(held(values[k.time]) * p.rate)
	}
	piece := int32(max(1, maxEarlier/max(1, len(k.lively))))
	var one Copied
	for n := range shown {
		if n%piece == 0 {
			for m, s := range k.lively { // how late copies are is read as it is at the frame
				values[s] = base[m]
			}
			p.past.Bound(frame)
			frames, rows = p.earlier(k, frame, then, n, min(shown, n+piece))
		}
		lane, at, row := k.first+n, then, base
		one = p.lane(lane, around)
		b.lanes--
		if n == shown-1 {
			one.Opacity *= last
		}
		if one.Opacity <= 0 || b.spent() {
			continue
		}
		if k.late {
			at -= float64(p.ofLane(lane, laneLate, 0) * p.rate)
		}
		if at != frame {
			m, _ := slices.BinarySearch(frames, at)
			row, one.Late = rows[m], true
		}
		p.now.frame = at // for particles, which are asked for by the frame
		held := p.posed(&p.now, lane)
		for m, s := range k.lively {
			values[s] = row[m]
		}
		p.stand(&p.now, i, &held)
		for _, j := range k.below {
			p.placeItem(&p.now, j)
		}
		p.seeBelow(k, at, one.Late)
		for m := len(k.drawn) - 1; m >= 0; m-- {
			one.Item = k.drawn[m]
			if inner := p.copied[one.Item]; inner != nil {
				p.copies(one.Item, at, one, b)
				continue
			}
			if !b.spent() {
				left := one.Opacity
				one.Opacity = float64(left * p.Opacity(one.Item))
				if p.Layout.Items[one.Item].Kind == scene.Emitter {
					p.through(&one)
				}
				if one.Looks = nil; one.Late {
					if one.Looks = p.looks[one.Item]; p.Layout.Apart(one.Item) {
						one.Looks = p.apartOf(one.Item).looksApart(p, one.Item)
					}
				}
				b.show(&one)
				one.Opacity = left
			}
		}
	}
	p.now.frame = frame
	p.stand(&p.now, i, &own)
	for n, j := range k.below {
		copy(values[l.WorldOf(j):], worlds[n])
	}
	for n, s := range k.lively {
		values[s] = base[n]
	}
	p.seeBelow(k, frame, k.late)
}

// seeBelow works out where what pieces show is seen that is below copies; at another time, first where that stands in them, and what is shown
// apart.
func (p *Plan) seeBelow(k *copying, frame float64, late bool) {
	if late {
		for _, at := range k.stages {
			if a := p.apartAt(at); a == nil {
				stage := &p.Layout.Stages[at]
				for i := stage.First; i < stage.First+stage.Count; i++ {
					p.placeItem(&p.now, i)
				}
			} else if a.at == at {
				a.evaluate(p, frame)
			}
		}
	}
	if len(k.below) > 0 && p.Layout.Staged(k.below[0]) {
		by := &p.carries[p.Layout.StageOf(k.below[0])]
		for _, j := range k.below {
			p.seeItem(j, by)
		}
	}
	for _, at := range k.stages {
		p.seeStage(int(at), true)
	}
}

// Where properties of copies stand in scene.Of(scene.Copy).
var laneOpacity, laneTint, laneTinted, laneLate = ofKind(scene.Copy, "opacity"), ofKind(scene.Copy, "tint"), ofKind(scene.Copy, "tintStrength"), ofKind(scene.Copy, "copyLate")

// ofKind returns where a property stands among those of a kind.
func ofKind(kind scene.Kind, key string) int {
	return slices.IndexFunc(scene.Of(kind), func(s *scene.Spec) bool { return s.Key == key })
}

// ofLane returns a component of a property of a copy.
func (p *Plan) ofLane(lane int32, property int, component int32) float64 {
	return held(p.now.values[p.Layout.Slot(lane, property)+component])
}

// lane returns what a copy makes of what it shows.
func (p *Plan) lane(lane int32, around Copied) Copied {
	around.Lane, around.Opacity = lane, float64(around.Opacity*p.ofLane(lane, laneOpacity, 0))/100
	share := p.ofLane(lane, laneTinted, 0) / 100
	if share == 0 {
		return around
	}
	all := around.Tinted + float64((1-around.Tinted)*share)
	for n := range around.Tint {
		around.Tint[n] += float64((p.ofLane(lane, laneTint, int32(n)) - around.Tint[n]) * share / all)
	}
	around.Tinted = all
	return around
}

// ShownCopies returns what each copy that item i shows at the frame last evaluated makes of what it shows, in order.
func (p *Plan) ShownCopies(i int32) (out []Copied) {
	p.freshCopies()
	k := p.copied[i]
	if k == nil {
		return nil
	}
	shown, last := p.shownCopies(i, k)
	for n := range shown {
		out = append(out, p.lane(k.first+n, Copied{Opacity: 1}))
	}
	if shown > 0 {
		out[shown-1].Opacity *= last
	}
	return out
}

// NumberOfCopies returns how many copies an item shows at the frame last evaluated.
func (p *Plan) NumberOfCopies(id scene.ID) int {
	p.freshCopies()
	i := p.Layout.Index(id)
	if i < 0 || p.copied[i] == nil {
		return 0
	}
	n, _ := p.shownCopies(i, p.copied[i])
	return int(n)
}

// shownCopies returns how many copies an item shows, and how much there is of the last of them, 0 to 1.
func (p *Plan) shownCopies(i int32, k *copying) (n int32, last float64) {
	look := look{p, &p.now, i}
	number := math.Max(0, math.Min(look.n("copiesNumber"), float64(k.most)))
	whole := math.Floor(number)
	if look.n("copiesFade") != 1 || whole == number {
		return int32(whole), 1
	}
	return int32(whole) + 1, number - whole
}

// maxEarlier is how many values of other times are held at once.
const maxEarlier = 1 << 20

// earlier returns what the lively slots of copies are at the other frames that some of their copies show, which are in order: so
// much before then as each is late.
func (p *Plan) earlier(k *copying, frame, then float64, from, to int32) (frames []float64, rows [][]float64) {
	if !k.late {
		return nil, nil
	}
	k.frames = k.frames[:0]
	for n := from; n < to; n++ {
		if at := then - float64(p.ofLane(k.first+n, laneLate, 0)*p.rate); at != frame {
			k.frames = append(k.frames, at)
		}
	}
	if len(k.frames) == 0 {
		return nil, nil
	}
	slices.Sort(k.frames)
	k.frames = slices.Compact(k.frames)
	size := len(k.lively)
	k.numbers = slices.Grow(k.numbers[:0], len(k.frames)*size)[:len(k.frames)*size]
	k.rows = slices.Grow(k.rows[:0], len(k.frames))[:len(k.frames)]
	for n := range k.rows {
		k.rows[n] = k.numbers[n*size : (n+1)*size]
	}
	p.past.Rows(k.rows, k.frames, k.lively, p.now.env)
	return k.frames, k.rows
}

// Dyed returns a colour with the tint mixed in by its strength, component for component; the opacity stays.
func (c *Copied) Dyed(colour scene.Value) scene.Value {
	if c.Tinted == 0 {
		return colour
	}
	for k, x := range c.Tint {
		colour = colour.With(k, num.Clamp(colour.At(k)+float64((x-colour.At(k))*c.Tinted), 0, 1))
	}
	return colour
}
