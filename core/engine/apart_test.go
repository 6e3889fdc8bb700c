package engine

import (
	"math"
	"slices"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/scene"
)

// timed is a piece of the lantern with a time of its own.
func timed(id scene.ID, set map[string]scene.Value) *scene.Item {
	item := &scene.Item{ID: id, Name: string(id), Kind: scene.Piece, Piece: &scene.Shown{Composition: "lantern"}}
	for key, v := range set {
		item.Edit(key).Own = v
	}
	return item
}

// Whatever a piece does with its time, it shows its composition as that is by itself at that time, with the same values, bit for bit,
// in whatever order frames are looked at.
func TestPiecesHaveATimeOfTheirOwn(t *testing.T) {
	moving := timed("moving", map[string]scene.Value{scene.PieceShow: scene.Num(1), "ofsway": scene.Num(-31)})
	moving.Edit(scene.PieceTime).Pins = []scene.Pin{{Frame: 2, Value: scene.Num(2.4), Easing: curve.Linear}, {Frame: 77, Value: scene.Num(0.3), Easing: curve.Linear}}
	linked := timed("linked", map[string]scene.Value{scene.PieceShow: scene.Num(1)})
	linked.Edit(scene.PieceTime).Links = []*scene.Link{{ID: "lt", Kind: scene.Formula, Gain: 1, Formula: "1.1 + wave(time * 0.7) * 0.9"}}
	for _, c := range []struct {
		piece *scene.Item
		at    func(frame float64) float64
		sway  float64 // NaN: as the composition has it
	}{
		{timed("late", map[string]scene.Value{scene.PieceStart: scene.Num(0.28), "ofsway": scene.Num(43)}), func(f float64) float64 { return f - 0.28*25 }, 43},
		{timed("slow", map[string]scene.Value{scene.PieceSpeed: scene.Num(37)}), func(f float64) float64 { return f * (37.0 / 100) }, math.NaN()},
		{timed("held", map[string]scene.Value{scene.PieceStart: scene.Num(1.2), scene.PieceEnds: scene.Num(1)}), func(f float64) float64 { return math.Max(0, math.Min(f-30, 89)) }, math.NaN()},
		{timed("again", map[string]scene.Value{scene.PieceStart: scene.Num(0.52), scene.PieceEnds: scene.Num(2), "ofsway": scene.Num(9)}), func(f float64) float64 { return math.Mod(f-13+900, 90) }, 9},
		{timed("mirror", map[string]scene.Value{scene.PieceSpeed: scene.Num(300), scene.PieceEnds: scene.Num(3)}), func(f float64) float64 {
			if m := math.Mod(3*f+178*9, 178); m > 89 {
				return 178 - m
			} else {
				return m
			}
		}, math.NaN()},
		{moving, nil, -31},
		{linked, nil, math.NaN()},
	} {
		t.Run(c.piece.Name, func(t *testing.T) {
			project := staged([]*scene.Item{c.piece}, lantern())
			if err := project.Check(); err != nil {
				t.Fatal(err)
			}
			set := map[string]*scene.State{}
			if c.sway == c.sway {
				set["sway"] = &scene.State{Own: scene.Num(c.sway)}
			}
			p, by := New(project.Compositions[0]), alone(project.Compositions[1], set)
			for _, frame := range []float64{50, 3, 118, 14, 13, 0, 91.25, 40, 39} {
				p.Evaluate(frame)
				at := p.aparts[0].clock.inner
				if c.at != nil && at != c.at(frame) {
					t.Fatalf("at %v it is at %v, want %v", frame, at, c.at(frame))
				}
				sameInside(t, p, c.piece.ID, by, at)
			}
		})
	}
}

// Copies at times of their own, beside a piece at its own time that moves by pins: a plan asks for both while it is made.
func TestCopiesAtOtherTimesBesideAMovingPiece(t *testing.T) {
	piece := timed("late", map[string]scene.Value{scene.PieceStart: scene.Num(0.4)})
	piece.Edit("ofsway").Pins = []scene.Pin{{Frame: 31, Value: scene.Num(3), Easing: curve.Smooth}, {Frame: 74, Value: scene.Num(57), Easing: curve.Smooth}}
	beads := &scene.Item{ID: "beads", Name: "Beads", Kind: scene.CopiesItem, Copies: &scene.CopiesShape{Limit: 4}, States: map[string]*scene.State{scene.CopiesShow: {Own: scene.Num(float64(scene.OwnTime))}}}
	bead := &scene.Item{ID: "bead", Name: "Bead", Kind: scene.Ellipse, Parent: "beads"}
	bead.Edit("rotation").Links = []*scene.Link{{ID: "turn", Kind: scene.Formula, Gain: 1, Formula: "{@late:@ofsway} * 2"}}
	project := staged([]*scene.Item{beads, bead, piece}, lantern())
	if err := project.Check(); err != nil {
		t.Fatal(err)
	}
	p, by := New(project.Compositions[0]), alone(project.Compositions[1], map[string]*scene.State{"sway": {Pins: []scene.Pin{{Frame: 21, Value: scene.Num(3), Easing: curve.Smooth}, {Frame: 64, Value: scene.Num(57), Easing: curve.Smooth}}}})
	for _, frame := range []float64{70, 33, 119, 8} {
		p.Evaluate(frame)
		sameInside(t, p, "late", by, frame-10)
	}
}

// What a piece sets may move: then it is so much earlier around the piece what it was earlier in it.
func TestWhatAPieceSetsMovesWithItsTime(t *testing.T) {
	pins := func(by int) []scene.Pin {
		return []scene.Pin{{Frame: 21 + by, Value: scene.Num(3), Easing: curve.Smooth}, {Frame: 64 + by, Value: scene.Num(57), Easing: curve.Smooth}}
	}
	piece := timed("late", map[string]scene.Value{scene.PieceStart: scene.Num(0.4)})
	piece.Edit("ofsway").Pins = pins(10)
	project := staged([]*scene.Item{piece}, lantern())
	p, by := New(project.Compositions[0]), alone(project.Compositions[1], map[string]*scene.State{"sway": {Pins: pins(0)}})
	for _, frame := range []float64{70, 33, 34, 119, 8, 51} {
		p.Evaluate(frame)
		sameInside(t, p, "late", by, frame-10)
	}
}

// A piece in a piece goes by the time of the one around it, and of its own.
func TestTimesWithinTimes(t *testing.T) {
	garland := scene.NewComposition("garland", "Garland")
	garland.Rate, garland.Frames = 25, 100
	garland.Items = []*scene.Item{timed("in", map[string]scene.Value{scene.PieceStart: scene.Num(0.2), "ofsway": scene.Num(5)}), timed("step", nil)}
	outer := &scene.Item{ID: "out", Name: "Out", Kind: scene.Piece, Piece: &scene.Shown{Composition: "garland"}}
	outer.Edit(scene.PieceStart).Own = scene.Num(0.32)
	project := staged([]*scene.Item{outer}, lantern(), garland)
	p := New(project.Compositions[0])
	byIn, byStep := alone(project.Compositions[1], map[string]*scene.State{"sway": {Own: scene.Num(5)}}), alone(project.Compositions[1], nil)
	for _, frame := range []float64{44, 12, 90} {
		p.Evaluate(frame)
		stage := p.Layout.Showing(p.Layout.Index("out"))
		for id, want := range map[scene.ID]float64{"in": value(byIn, frame-8-5), "step": value(byStep, frame-8)} {
			i := p.Layout.In(p.Layout.Showing(p.Layout.In(stage, id)), "frame")
			if got := p.ValueOf(i, "rotation").At(0); got != want {
				t.Errorf("at %v %s is %v, want %v", frame, id, got, want)
			}
		}
	}
}

func value(p *Plan, frame float64) float64 {
	p.Evaluate(frame)
	return p.Value(scene.Ref{Item: "frame", Property: "rotation"}).At(0)
}

// Copies of pieces, late copies among them, show what the pieces show.
func TestCopiesOfPieces(t *testing.T) {
	for name, set := range map[string]map[string]scene.Value{"in step": nil, "apart": {scene.PieceStart: scene.Num(0.12)}} {
		t.Run(name, func(t *testing.T) {
			many := &scene.Item{ID: "many", Name: "Many", Kind: scene.CopiesItem, Copies: &scene.CopiesShape{Limit: 4}}
			many.Edit("copiesNumber").Own = scene.Num(3)
			many.Edit("copiesSpacing").Own = scene.Pt(100, 0, 0)
			piece := timed("piece", set)
			piece.Parent = "many"
			project := staged([]*scene.Item{many, piece}, lantern())
			c := project.Compositions[0]
			c.RosterLinks = []*scene.RosterLink{{ID: "r", Name: "Late", Property: "copyLate", Roster: scene.Roster{Kind: scene.CopiesOf, Item: "many"}, Link: &scene.Link{ID: "rl", Kind: scene.Formula, Gain: 1, Formula: "index * 7 / 25"}}}
			p, by := New(c), alone(project.Compositions[1], nil)
			shift := 0.0
			if set != nil {
				shift = 3
			}
			for _, frame := range []float64{60, 21} {
				p.Evaluate(frame)
				before := slices.Clone(p.now.values)
				seen, beads := map[string]int{}, 0
				p.Copies(p.Layout.Index("many"), func(one *Copied) {
					item := p.Layout.Items[one.Item]
					seen[item.Name]++
					if item.Name != "Frame" {
						return
					}
					n := float64(beads)
					beads++
					want := value(by, frame-float64(n*7/25*25)-shift)
					if got := p.posed(&p.now, one.Item); got != by.posed(&by.now, by.Layout.Index("frame")) {
						t.Errorf("at %v copy %v has the frame at %v in the piece", frame, n, got)
					}
					if got := p.ValueOf(one.Item, "rotation").At(0); got != want {
						t.Errorf("at %v copy %v turns the frame by %v, want %v", frame, n, got, want)
					}
					if at := p.World(one.Item); math.Abs(at[3]-(100*n+13)) > 1e-9 {
						t.Errorf("copy %v shows it at %v", n, at[3])
					}
				})
				if seen["Frame"] != 3 || seen["Sign"] != 3 || seen["Dot"] != 12 {
					t.Errorf("shown: %v", seen)
				}
				for slot, v := range p.now.values {
					if math.Float64bits(v) != math.Float64bits(before[slot]) {
						t.Fatalf("it left %v behind in slot %d (%v), where %v was; seen begin at %d of %d", v, slot, p.RefOf(int32(slot)), before[slot], p.Layout.Seen, p.Layout.Size)
					}
				}
			}
		})
	}
}
