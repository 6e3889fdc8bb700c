package engine

import (
	"math"

	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// settingKeys are the properties of an emitter that a particle takes with it at its birth, in the
// order of the numbers of a row.
var settingKeys = []string{
	"rate", "life", "speed", "direction", "spread", "variety", "gravity", "drag", "inheritMotion", "source", "sourceSize",
	"startSize", "endSize", "startColour", "endColour",
}

// Where the settings stand in a row.
const (
	rowRate, rowLife, rowSpeed, rowDirection, rowSpread = 0, 1, 2, 3, 4
	rowVariety, rowGravity, rowDrag, rowInherit         = 5, 6, 7, 8
	rowSource, rowSourceSize, rowStart, rowEnd          = 9, 10, 12, 13
	rowStartColour, rowEndColour                        = 14, 18
	rowWorld                                            = 22
	rowSize                                             = 34
)

// row is an emitter's settings and place at a whole frame.
type row [rowSize]float64

// emitter is what is known of an emitter at other times than now. It is only ever a cache: rows are
// asked of the engine, frame by frame, and thrown away when something they are made of changes.
type emitter struct {
	depSlice *depSlice
	slots    []int32
	first    int       // frame of the first row
	rows     []row     // from first on
	born     []float64 // how many particles were born before each row
	life     float64   // the longest life among the rows, in seconds
}

func (e *emitter) forget() { e.rows, e.born, e.life = e.rows[:0], e.born[:0], 0 }

// Particle is one live particle, in the composition's space.
type Particle struct {
	Number int        // of its birth, from 0
	Place  [3]float64 // pixels
	Size   float64    // pixels
	Moving [2]float64 // how fast it flies, in x and y, in pixels a second
	Colour [4]float64
}

// MaxParticles bounds how many particles of one emitter live at once; of more, the youngest are
// kept.
const MaxParticles = 100000

// maxBirths bounds how many particles an emitter ever has: beyond it numbers are no longer exact.
const maxBirths = 1e9

// Particles calls with every particle of emitter i that lives at the frame last evaluated, the
// oldest first. What a particle is depends on its number, the seed, and the emitter's settings and
// place when it was born; never on what was looked at before.
//
// Between whole frames, settings and places run straight from one to the next. The particle with
// number n is born when the area under the rate reaches n + 1. With drag k, gravity g and speed v
// at birth, after t seconds it has gone v·a + g·b with a = (1 - e^-kt)/k and b = (t - a)/k: the
// solution of x″ = g - k·x′.
func (p *Plan) Particles(i int32, report func(*Particle)) {
	through, opacity := p.carry(i)
	p.ParticlesThrough(i, &through, func(one *Particle) {
		one.Colour[3] *= opacity
		report(one)
	})
}

// ParticlesThrough is Particles of an emitter that stands where it does by way of another transform, as copies of it do: where it
// stands when they are born, and how it moves then, is taken through that; gravity pulls down all the same.
func (p *Plan) ParticlesThrough(i int32, through *num.Affine, report func(*Particle)) {
	if a := p.apartOf(i); a != nil {
		a.plan.ParticlesThrough(a.inside(p, i), through, report)
		return
	}
	e := p.emitterOf(i)
	fps := p.rate
	warm, seed := p.setting(i, "warmUp"), uint64(p.setting(i, "seed"))
	first := -int(math.Ceil(float64(warm * fps)))
	if e.first != first {
		e.forget()
		e.first = first
	}
	now := p.now.frame
	if now < float64(first) {
		return
	}
	p.extend(e, i, int(math.Floor(now))+1)
	last := e.bornAt(now, fps)
	oldest := e.bornAt(now-float64(e.life*fps), fps)
	from := math.Max(math.Max(0, math.Ceil(oldest-1)), math.Floor(last)-MaxParticles)
	var out Particle
	at := 0
	for n := from; n+1 <= last; n++ {
		for at+1 < len(e.born) && e.born[at+1] < n+1 {
			at++
		}
		birth := e.birth(at, n+1, fps)
		if e.fly(&out, at, birth, now, fps, uint64(n), seed, through) {
			out.Number = int(n)
			report(&out)
		}
	}
}

// setting reads a property of item i that stays the same at every frame of a visit.
func (p *Plan) setting(i int32, key string) float64 {
	_, slot := p.Layout.FindAt(i, key)
	return p.now.values[slot]
}

func (p *Plan) emitterOf(i int32) *emitter {
	e := p.emitters[i]
	if e == nil {
		e = &emitter{}
		p.emitters[i] = e
		for _, key := range settingKeys {
			spec, slot := p.Layout.FindAt(i, key)
			for c := range spec.Type.Size() {
				e.slots = append(e.slots, slot+int32(c))
			}
		}
	}
	if e.depSlice == nil {
		e.depSlice = p.newSlice(e.slots, []int32{i})
	}
	return e
}

// extend asks for rows up to a frame.
func (p *Plan) extend(e *emitter, i int32, to int) {
	for f := e.first + len(e.rows); f <= to; f++ {
		var r row
		p.at(e.depSlice, float64(f), func(c *snapshot) {
			for k, slot := range e.slots {
				r[k] = c.values[slot]
			}
			world := p.posed(c, i)
			copy(r[rowWorld:], world.Affine[:])
			// They are born at the pivot, and inherit how that moves.
			for axis, at := range world.Apply([3]float64(c.values[p.place[i][5] : p.place[i][5]+3])) {
				r[rowWorld+4*axis+3] = at
			}
		})
		born := 0.0
		if n := len(e.rows); n > 0 {
			born = e.born[n-1] + float64((e.rows[n-1][rowRate]+r[rowRate])/2)/p.rate
		}
		e.rows, e.born = append(e.rows, r), append(e.born, math.Min(born, maxBirths))
		e.life = math.Max(e.life, r[rowLife])
	}
}

// bornAt returns the area under the rate up to a frame.
func (e *emitter) bornAt(frame, fps float64) float64 {
	at := frame - float64(e.first)
	if at <= 0 {
		return 0
	}
	k := int(math.Floor(at))
	if k+1 >= len(e.rows) {
		return e.born[len(e.born)-1]
	}
	u := at - float64(k)
	r0, r1 := e.rows[k][rowRate], e.rows[k+1][rowRate]
	return e.born[k] + float64(u*(r0+float64(float64(u*(r1-r0))/2)))/fps
}

// birth returns the frame at which the area under the rate, in the span after row k, reaches a
// height: the root of a quadratic, in the form that loses no digits.
func (e *emitter) birth(k int, height, fps float64) float64 {
	if k+1 >= len(e.rows) {
		return float64(e.first + k)
	}
	r0, r1 := e.rows[k][rowRate], e.rows[k+1][rowRate]
	need := float64((height - e.born[k]) * fps)
	root := math.Sqrt(math.Max(0, float64(r0*r0)+float64(2*(r1-r0)*need)))
	u := 0.0
	if r0+root > 0 {
		u = float64(2*need) / (r0 + root)
	}
	return float64(e.first+k) + num.Clamp(u, 0, 1)
}

// What chance decides about a particle, by its place in the hash.
const (
	chanceDirection = iota
	chanceLife
	chanceSpeed
	chanceSize
	chanceX
	chanceY
)

// fly works out a particle that was born in the span after row k, and reports whether it lives.
func (e *emitter) fly(out *Particle, k int, birth, now, fps float64, number, seed uint64, through *num.Affine) bool {
	a, b := &e.rows[k], &e.rows[min(k+1, len(e.rows)-1)]
	u := birth - float64(e.first+k)
	at := func(n int) float64 { return a[n] + float64((b[n]-a[n])*u) }
	chance := func(what uint64) float64 { return num.Share(num.Hash(seed, number, what)) }
	variety := at(rowVariety) / 100
	varied := func(what uint64) float64 { return 1 + float64(variety*(float64(2*chance(what))-1)) }

	age := (now - birth) / fps
	life := float64(at(rowLife) * (1 - float64(variety*chance(chanceLife))))
	if age < 0 || age >= life || life <= 0 {
		return false
	}
	var world num.Affine
	for n := range world {
		world[n] = at(rowWorld + n)
	}
	world = through.Mul(&world)
	place := world.Apply(e.source(a, at, chance))
	velocity := direction(&world, at(rowDirection)+float64(at(rowSpread)*(chance(chanceDirection)-0.5)))
	speed := float64(at(rowSpeed) * varied(chanceSpeed))
	inherit := float64(at(rowInherit)/100) * fps
	drag := at(rowDrag)
	gone, fallen, slowed := travel(drag, age)
	var step [3]float64 // of the emitter in a frame
	for axis := range step {
		for k := range step {
			step[axis] += float64(through[4*axis+k] * (b[rowWorld+4*k+3] - a[rowWorld+4*k+3]))
		}
	}
	for axis := range 3 {
		v := float64(velocity[axis]*speed) + float64(step[axis]*inherit)
		out.Place[axis] = place[axis] + float64(v*gone)
		if axis < 2 {
			out.Moving[axis] = float64(v * slowed)
		}
	}
	gravity := at(rowGravity)
	out.Place[1] -= float64(gravity * fallen)
	out.Moving[1] -= float64(gravity * gone)
	share := age / life
	out.Size = float64((at(rowStart) + float64((at(rowEnd)-at(rowStart))*share)) * varied(chanceSize))
	for c := range 4 {
		from, to := at(rowStartColour+c), at(rowEndColour+c)
		out.Colour[c] = from + float64((to-from)*share)
	}
	return true
}

// source returns where on the emitter a particle is born, in the emitter's own space, as seen from its pivot.
func (e *emitter) source(a *row, at func(int) float64, chance func(uint64) float64) [3]float64 {
	w, h := at(rowSourceSize), at(rowSourceSize+1)
	switch scene.SourceShapes[int(a[rowSource])] {
	case "line":
		return [3]float64{float64(w * (chance(chanceX) - 0.5)), 0, 0}
	case "disc":
		sin, cos := num.SinCos(float64(360 * chance(chanceX)))
		r := math.Sqrt(chance(chanceY)) / 2
		return [3]float64{float64(float64(w*r) * cos), float64(float64(h*r) * sin), 0}
	}
	return [3]float64{}
}

// direction returns a direction of an emitter's plane as it stands in the composition, of length 1.
func direction(world *num.Affine, degrees float64) [3]float64 {
	sin, cos := num.SinCos(degrees)
	var out [3]float64
	sum := 0.0
	for axis := range 3 {
		out[axis] = float64(world[4*axis]*cos) + float64(world[4*axis+1]*sin)
		sum += float64(out[axis] * out[axis])
	}
	if d := math.Sqrt(sum); d > 0 {
		for axis := range 3 {
			out[axis] /= d
		}
	}
	return out
}

// travel returns how far something goes in t seconds for each unit of speed at its start and of
// steady pull, slowed by a drag, and what is left of its speed. For a weak drag the series is used:
// the closed form would lose its digits.
func travel(drag, t float64) (gone, fallen, slowed float64) {
	if drag == 0 {
		return t, float64(t*t) / 2, 1
	}
	x := float64(drag * t)
	slowed = num.Exp(-x)
	if x < 1e-3 {
		gone = float64(t * (1 - float64(x/2) + float64(x*x)/6 - float64(float64(x*x)*x)/24))
		fallen = float64(float64(t*t) * (0.5 - float64(x/6) + float64(x*x)/24 - float64(float64(x*x)*x)/120))
		return gone, fallen, slowed
	}
	gone = (1 - slowed) / drag
	return gone, (t - gone) / drag, slowed
}
