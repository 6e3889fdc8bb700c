package engine

import (
	"maps"
	"math"
	"slices"

	"wunderkammer/core/curve"
	"wunderkammer/core/layout"
	"wunderkammer/core/scene"
)

// apart is what a piece shows at a time of its own: a plan of its composition, evaluated at that time, and what of it stands where in the
// plan around it. Whatever it looks back at lies on its own time, so that it is what the composition by itself is then; what the piece sets
// of it is as it was so much earlier around the piece.
type apart struct {
	at     int32 // the stage; what pieces in it show is its own
	piece  int32
	plan   *Plan
	copied []copiedRun
	items  map[int32]int32 // of the plan, by their index in the plan around it
	feeds  []feed
	clock  clock
	// later is what clock said last, where it runs in another way than straight on: what was worked out of what the piece sets is of no use
	// any more when that changes.
	later  float64
	looks  map[int32][]int32 // see looksApart
	lively []bool            // likewise
}

// copiedRun is slots side by side of the plan, and where they stand in the plan around it.
type copiedRun struct{ from, to, n int32 }

// feed is a control of the composition that the piece sets.
type feed struct {
	key      string // of the piece
	from, to int32  // slots of the piece, and of the control
	spec     *scene.Spec
	moving   bool // it changes from frame to frame
	own      bool // nobody sets it: the control has its own value, which the piece shows
}

// clock is how the time of a piece goes with that around it: at the frame outer it is at the frame inner, and runs so many frames on
// with each.
type clock struct{ outer, inner, speed float64 }

// around returns the frame around the piece at which it was at a frame of its own, as the clock stands.
func (c *clock) around(inner float64) float64 {
	if inner == c.inner || c.speed == 0 {
		return c.outer
	}
	return c.outer + (inner-c.inner)/c.speed
}

// clockOf reads the clock of a piece.
func (p *Plan) clockOf(piece int32, frame float64) clock {
	of := p.Layout.Items[piece].Stage()
	v := func(key string) float64 {
		_, slot := p.Layout.FindAt(piece, key)
		return p.now.values[slot]
	}
	rates := float64(of.Rate) / p.rate
	if v(scene.PieceShow) == scene.OwnTime {
		return clock{frame, of.Held(whole(float64(v(scene.PieceTime) * float64(of.Rate)))), rates}
	}
	k := clock{outer: frame, speed: v(scene.PieceSpeed) / 100}
	at := float64((frame - whole(float64(v(scene.PieceStart)*p.rate))) * k.speed)
	if of.Rate != p.Layout.Composition.Rate {
		at, k.speed = float64(at*rates), float64(k.speed*rates)
	}
	n := float64(of.Frames)
	switch scene.Ends[int(v(scene.PieceEnds))] {
	case "hold":
		at = math.Max(0, math.Min(at, n-1))
	case "repeat":
		at -= float64(math.Floor(at/n) * n)
	case "mirror":
		if n == 1 {
			at = 0
			break
		}
		period := 2 * (n - 1)
		if at -= float64(math.Floor(at/period) * period); at > n-1 {
			at, k.speed = period-at, -k.speed
		}
	}
	k.inner = of.Held(at)
	return k
}

// whole returns a number of frames, a whole one where it is that but for the rounding of seconds: else what holds from frame to frame would
// come a frame late.
func whole(frames float64) float64 {
	if near := math.Round(frames); math.Abs(frames-near) < 1e-6 {
		return near
	}
	return frames
}

// evaluateApart works out what pieces show at times of their own.
func (p *Plan) evaluateApart(frame float64) {
	if p.aparts == nil {
		p.makeApart()
	}
	for _, a := range p.aparts {
		a.evaluate(p, frame)
	}
}

// makeApart makes ready what pieces show at times of their own. All that show one composition share its order.
func (p *Plan) makeApart() {
	p.aparts = []*apart{}
	models := map[*scene.Composition]*Plan{}
	for at := 1; at < len(p.Layout.Stages); at++ {
		s := &p.Layout.Stages[at]
		if !s.Apart || p.Layout.Stages[p.Layout.StageOf(s.Piece)].Apart {
			continue
		}
		model := models[s.Composition]
		if model == nil {
			model = made(s.Composition, p.Stop, p.words)
			models[s.Composition] = model
		}
		a := &apart{at: int32(at), piece: s.Piece, plan: model.twin(), later: math.NaN()}
		a.find(p)
		a.feed(p)
		p.aparts = append(p.aparts, a)
	}
	p.feeding = map[int32]bool{}
	for _, a := range p.aparts {
		for _, f := range a.feeds {
			if f.moving {
				for c := range int32(f.spec.Type.Size()) {
					p.feeding[f.from+c] = true
				}
			}
		}
	}
	if len(p.feeding) > 0 && p.past != nil && !p.past.Keeps(p.alsoLooked()) { // while a plan is made, they are found afterwards
		p.findHistories()
	}
}

// alsoLooked lists the slots that are looked at at other times besides those that links look at.
func (p *Plan) alsoLooked() []int32 {
	out := append(p.lateSlots(), slices.Sorted(maps.Keys(p.feeding))...)
	slices.Sort(out)
	return slices.Compact(out)
}

// twin returns a plan of the same composition with values of its own.
func (p *Plan) twin() *Plan {
	t := *p
	t.now = snapshot{own: slices.Clone(p.now.own), values: slices.Clone(p.now.values), stale: true}
	t.start, t.tracks, t.trackOf = slices.Clone(p.start), slices.Clone(p.tracks), maps.Clone(p.trackOf)
	t.then, t.blocks, t.asking, t.wider, t.aparts, t.feeding = nil, nil, nil, nil, nil, nil
	t.emitters, t.poses, t.under = map[int32]*emitter{}, map[int32]float64{}, map[int32]float64{}
	t.carries = make([]carrying, len(p.carries))
	t.findCopies()
	t.findHistories()
	return &t
}

// find finds what of the plan stands where in the plan around it.
func (a *apart) find(p *Plan) {
	q := a.plan
	a.items = make(map[int32]int32, len(q.Layout.Items))
	stages := []int32{a.at} // of the plan around it, by stage
	for at := 1; at < len(q.Layout.Stages); at++ {
		s := &q.Layout.Stages[at]
		piece := s.Piece - q.Layout.Stages[q.Layout.StageOf(s.Piece)].First + p.Layout.Stages[stages[q.Layout.StageOf(s.Piece)]].First
		stages = append(stages, p.Layout.Showing(piece))
	}
	run := func(from, to, n int32) {
		if last := len(a.copied) - 1; last >= 0 && a.copied[last].from+a.copied[last].n == from && a.copied[last].to+a.copied[last].n == to {
			a.copied[last].n += n
			return
		}
		a.copied = append(a.copied, copiedRun{from, to, n})
	}
	around := make([]int32, len(q.Layout.Items))
	for i := range q.Layout.Items {
		stage := q.Layout.StageOf(int32(i))
		if around[i] = -1; stages[stage] >= 0 {
			around[i] = int32(i) - q.Layout.Stages[stage].First + p.Layout.Stages[stages[stage]].First
			a.items[around[i]] = int32(i)
		}
	}
	for _, k := range q.Layout.Kinds {
		for n, c := range k.Columns {
			for row, i := range k.Items {
				if around[i] >= 0 && p.Layout.Holds(around[i], scene.Of(k.Kind)[n].Key) {
					run(c.First+c.Step*int32(row), p.Layout.Slot(around[i], n), c.Size)
				}
			}
		}
	}
	for i := range q.Layout.Items {
		if around[i] < 0 {
			continue
		}
		specs := q.Layout.Specs(int32(i))
		for n := len(scene.Of(q.Layout.Items[i].Kind)); n < len(specs); n++ {
			if m, ok := p.Layout.Property(around[i], specs[n].Key); ok {
				run(q.Layout.Slot(int32(i), n), p.Layout.Slot(around[i], m), int32(specs[n].Type.Size()))
			}
		}
		run(q.Layout.WorldOf(int32(i)), p.Layout.WorldOf(around[i]), layout.WorldSize)
	}
}

// feed has the controls that the piece sets take over what it sets.
func (a *apart) feed(p *Plan) {
	item := p.Layout.Items[a.piece]
	for _, h := range item.Handed() {
		key := string(h.Offer.ID)
		spec, from := p.Layout.FindAt(a.piece, key)
		own, to := a.plan.Layout.Find(h.Item.ID, string(h.From.ID))
		if spec == nil || own == nil {
			continue
		}
		f := feed{key: key, from: from, to: to, spec: own}
		_, f.moving = p.trackOf[from]
		for c := range int32(own.Type.Size()) {
			f.moving = f.moving || p.wired[from+c]
		}
		f.own = !f.moving && (item.Untouched(key) || item.Kept(key) != nil) && h.Offer.Default.Absent()
		a.feeds = append(a.feeds, f)
		a.take(p, &f)
	}
}

// take has a control take over what the piece sets.
func (a *apart) take(p *Plan, f *feed) {
	q := a.plan
	size := f.spec.Type.Size()
	switch {
	case f.own:
	case f.moving:
		t := pinned{slot: f.to, limits: f.spec}
		for c := range int32(size) {
			t.tracks = append(t.tracks, curve.From(func(frame float64) float64 { return a.given(p, f.from+c, frame) }))
		}
		if at, had := q.trackOf[f.to]; had {
			q.tracks[at] = t
		} else {
			q.trackOf[f.to] = len(q.tracks)
			q.tracks = append(q.tracks, t)
		}
	default:
		if at, had := q.trackOf[f.to]; had { // the pins of the control
			last := len(q.tracks) - 1
			q.tracks[at] = q.tracks[last]
			q.trackOf[q.tracks[at].slot] = at
			q.tracks = q.tracks[:last]
			delete(q.trackOf, f.to)
		}
		for c := range size {
			q.set(f.to+int32(c), p.now.values[f.from+int32(c)], f.spec.Part(c))
		}
		q.forget(slotsOf(f.to, f.spec))
	}
}

// given returns what the piece sets in a slot at a frame of its own.
func (a *apart) given(p *Plan, slot int32, inner float64) float64 {
	if inner == a.clock.inner {
		return p.now.values[slot]
	}
	return p.past.Value(slot, a.clock.around(inner), a.clock.outer)
}

// evaluate works out what the piece shows at a frame of the plan around it, with what that has at that frame.
func (a *apart) evaluate(p *Plan, frame float64) {
	q := a.plan
	a.clock = p.clockOf(a.piece, frame)
	if later := float64(a.clock.speed*frame) - a.clock.inner; later != a.later {
		a.later = later
		for _, f := range a.feeds {
			if f.moving {
				q.forget(slotsOf(f.to, f.spec))
			}
		}
	}
	q.Evaluate(a.clock.inner)
	a.show(p)
	for _, f := range a.feeds {
		if f.own {
			size := int32(f.spec.Type.Size())
			copy(p.now.values[f.from:f.from+size], q.now.values[f.to:f.to+size])
		}
	}
}

// show puts all values where they stand in the plan around it.
func (a *apart) show(p *Plan) {
	from, to := a.plan.now.values, p.now.values
	for _, r := range a.copied {
		copy(to[r.to:r.to+r.n], from[r.from:r.from+r.n])
	}
}

// apartAt returns what a stage belongs to that is shown at a time of its own; nil where none is.
func (p *Plan) apartAt(stage int32) *apart {
	for stage > 0 && p.Layout.Stages[stage].Apart {
		for _, a := range p.aparts {
			if a.at == stage {
				return a
			}
		}
		stage = p.Layout.StageOf(p.Layout.Stages[stage].Piece)
	}
	return nil
}

// apartOf returns what item i belongs to that a piece shows at a time of its own; nil for none.
func (p *Plan) apartOf(i int32) *apart { return p.apartAt(p.Layout.StageOf(i)) }

// inside returns where an item stands in the plan of what is shown apart.
func (a *apart) inside(_ *Plan, i int32) int32 { return a.items[i] }

// copiesApart is Copies of an item that a piece shows at a time of its own.
func (p *Plan) copiesApart(a *apart, i int32, report func(*Copied)) {
	around := make(map[int32]int32, len(a.items))
	for outer, inner := range a.items {
		around[inner] = outer
	}
	a.plan.Copies(a.inside(p, i), func(c *Copied) {
		one := *c
		one.Item, one.Lane = around[c.Item], around[c.Lane]
		one.Looks = nil
		a.show(p)
		at := p.Layout.StageOf(one.Item)
		p.seeStage(int(at), true)
		carry, opacity := p.carry(one.Item)
		one.Opacity, one.Through = float64(c.Opacity*opacity), carry.Mul(&c.Through)
		for _, slot := range c.Looks {
			if to := a.slot(slot); to >= 0 {
				one.Looks = append(one.Looks, to)
			}
		}
		report(&one)
	})
	a.show(p)
	for at := range p.Layout.Stages {
		if p.apartAt(int32(at)) == a {
			p.seeStage(at, true)
		}
	}
}

// slot returns where a slot stands in the plan around it; -1 for one that has no place there.
func (a *apart) slot(s int32) int32 {
	for _, r := range a.copied {
		if s >= r.from && s < r.from+r.n {
			return r.to + s - r.from
		}
	}
	return -1
}

// feedAgain has what is shown apart take over what was changed of its piece, or of what drives that.
func (p *Plan) feedAgain(i int32, key string, moving bool) {
	if p.aparts == nil {
		return
	}
	if moving {
		p.apartAnew()
		return
	}
	for _, a := range p.aparts {
		for k := range a.feeds {
			f := &a.feeds[k]
			switch {
			case f.moving:
				a.plan.forget(slotsOf(f.to, f.spec))
			case a.piece == i && f.key == key:
				p.apartAnew() // it may be set now, or no longer
				return
			}
		}
	}
}

// apartAnew has all that is shown apart made anew, and told anew.
func (p *Plan) apartAnew() {
	p.aparts = nil
	for i := p.Layout.Stages[0].Count; i < int32(len(p.Layout.Items)); i++ {
		if p.Layout.Apart(i) {
			p.touch(i)
		}
	}
}

// looksApart lists the slots of an item, besides those of its place, that can be others at another time of what it belongs to.
func (a *apart) looksApart(p *Plan, i int32) []int32 {
	if a.looks == nil {
		a.looks, a.lively = map[int32][]int32{}, a.plan.restless()
	}
	list, known := a.looks[i]
	if !known {
		inner := a.inside(p, i)
		for _, s := range a.plan.livelyOf(inner, a.lively) {
			if to := a.slot(s); to >= 0 && !a.plan.placing(inner, s) {
				list = append(list, to)
			}
		}
		a.looks[i] = list
	}
	return list
}

// restlessApart marks the slots of what is shown apart that can be another from frame to frame.
func (p *Plan) restlessApart(out []bool) {
	if p.aparts == nil {
		p.makeApart()
	}
	for _, a := range p.aparts {
		inside := a.plan.restless()
		for _, r := range a.copied {
			copy(out[r.to:r.to+r.n], inside[r.from:r.from+r.n])
		}
		for _, f := range a.feeds {
			if f.own {
				for c := range int32(f.spec.Type.Size()) {
					out[f.from+c] = out[f.from+c] || inside[f.to+c]
				}
			}
		}
	}
}
