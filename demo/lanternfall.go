package demo

import (
	"math"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/scene"
)

// ID is the id of the demo project.
const ID scene.ID = "lanternfall"

const (
	width, height = 1280, 720
	frames        = 300
)

// Build returns the demo project. It is the same at every call.
func Build() (*scene.Project, error) {
	p := scene.NewProject(ID, "Lanternfall")
	c := p.Compositions[0]
	b := &builder{project: p, in: change.In{Composition: c.ID}}
	name, background := "Harbour opener", rgb("#16213d")
	b.do(&change.CompositionSet{In: b.in, Name: &name, Background: &background})
	r := b.panels()
	b.title(r)
	b.signals(r)
	b.part(scene.SoundItem, "Festival music", "", values{"volume": scene.Num(70)}, func(item *scene.Item) { _, item.Sound = Music() })
	b.lantern()
	b.in = change.In{Composition: c.ID}
	b.garlands(r)
	b.lights(r)
	b.boats(r)
	b.harbour(r)
	b.sky(r)
	b.quayShadows()
	b.ferryDeck()
	b.netFloats()
	b.buoy()
	b.drawbridge()
	b.winch()
	b.pennants()
	b.dusk()
	b.tides()
	b.in = change.In{Composition: c.ID}
	b.performed(r)
	b.moods(r)
	b.handedOver(r)
	b.sound()
	return p, b.err
}

// rig is the controls that the parts of the composition follow.
type rig struct {
	weather, light, title, signals                                     scene.ID
	wind, tide, dusk, glow, tint, beam, cone, lamps                    scene.Ref
	gusts, lag, flicker                                                scene.Ref
	titleSize, titleSweep, titleFalloff, titleTint, flag, sparks, kite scene.Ref
}

func (b *builder) panels() *rig {
	r := &rig{}
	r.weather = b.item(scene.Null, "Weather", "", values{"position": scene.Pt(-580, 320, 0)})
	r.wind = b.control(r.weather, scene.Control{
		Name: "Wind", Kind: scene.Fader, Unit: scene.Percent, SoftMin: -100, SoftMax: 100, Default: scene.Num(0),
		Note: "How far the lanterns and boats lean, and to which side.",
	}, curve.Smooth, gusts()...)
	r.gusts = b.control(r.weather, scene.Control{
		Name: "Gusts", Kind: scene.Fader, Unit: scene.Percent, SoftMin: 0, SoftMax: 100, Default: scene.Num(40), Note: "How much the wind comes and goes.",
	}, curve.Smooth, pin{0, scene.Num(20)}, pin{150, scene.Num(70)}, pin{299, scene.Num(35)})
	r.lag = b.control(r.weather, scene.Control{
		Name: "Sway lag", Kind: scene.Fader, Unit: scene.Seconds, SoftMin: 0, SoftMax: 1, Default: scene.Num(0.12), Step: 0.01, Note: "The time by which each lantern trails the one before it.",
	}, curve.Smooth)
	r.tide = b.control(r.weather, scene.Control{
		Name: "Tide", Kind: scene.Fader, Unit: scene.Metres, SoftMin: 0, SoftMax: 4, Default: scene.Num(1),
		Note: "Height of the water above the low mark. The boats ride on it.",
	}, curve.Smooth, pin{0, scene.Num(0.6)}, pin{110, scene.Num(2.2)}, pin{220, scene.Num(1.4)}, pin{299, scene.Num(3)})
	r.light = b.item(scene.Null, "Light", "", values{"position": scene.Pt(-580, 270, 0)})
	r.dusk = b.control(r.light, scene.Control{
		Name: "Sky tint", Kind: scene.ColourWidget, Default: rgb("#3b3f6e"),
		Note: "The colour of the low sky, and of the glints on the water.",
	}, curve.Smooth, pin{0, rgb("#d2714f")}, pin{120, rgb("#8a4a72")}, pin{260, rgb("#3a4278")})
	r.tint = b.control(r.light, scene.Control{
		Name: "Lantern tint", Kind: scene.ColourWidget, Default: rgb("#e8a33d"),
	}, curve.Smooth)
	r.glow = b.control(r.light, scene.Control{
		Name: "Glow", Kind: scene.Fader, Unit: scene.Percent, SoftMin: 0, SoftMax: 100, Default: scene.Num(60),
	}, curve.Smooth, flicker()...)
	r.flicker = b.control(r.light, scene.Control{
		Name: "Flicker", Kind: scene.Fader, Unit: scene.Percent, SoftMin: 0, SoftMax: 100, Default: scene.Num(35), Note: "How restless the lanterns' glow is, each in its own way.",
	}, curve.Smooth)
	r.beam = b.control(r.light, scene.Control{
		Name: "Beam angle", Kind: scene.DialWidget, SoftMin: -180, SoftMax: 180, Default: scene.Num(0),
		Note: "The lighthouse's beam, and the spot light that goes with it.",
	}, curve.Smooth, pin{0, scene.Num(-14)}, pin{150, scene.Num(26)}, pin{299, scene.Num(-20)})
	r.cone = b.control(r.light, scene.Control{
		Name: "Beam width", Kind: scene.Fader, Unit: scene.Degrees, SoftMin: 4, SoftMax: 60, Default: scene.Num(26),
	}, curve.Smooth)
	r.lamps = b.control(r.light, scene.Control{
		Name: "Window lights", Kind: scene.SwitchWidget, Default: scene.On(true), Note: "The windows on the quay.",
	}, curve.Hold, pin{0, scene.On(false)}, pin{50, scene.On(true)})
	r.title = b.item(scene.Null, "Title", "", values{"position": scene.Pt(0, -30, 0)})
	r.titleSize = b.control(r.title, scene.Control{
		Name: "Size", Kind: scene.Fader, Unit: scene.Percent, SoftMin: 0, SoftMax: 150, Default: scene.Num(100),
	}, curve.Smooth, pin{20, scene.Num(88)}, pin{70, scene.Num(100)}, pin{299, scene.Num(106)})
	r.titleSweep = b.control(r.title, scene.Control{
		Name: "Sweep", Kind: scene.Fader, Unit: scene.Percent, SoftMin: 0, SoftMax: 100, Default: scene.Num(100),
		Note: "Where the zone stands that the letters rise in.",
	}, curve.Smooth, pin{0, scene.Num(48)}, pin{70, scene.Num(100)})
	r.titleFalloff = b.control(r.title, scene.Control{
		Name: "Falloff", Kind: scene.Fader, Unit: scene.Pixels, SoftMin: 0, SoftMax: 600, Default: scene.Num(320), Note: "How gently the letters come up.",
	}, curve.Smooth)
	r.titleTint = b.control(r.title, scene.Control{
		Name: "Title tint", Kind: scene.ColourWidget, Default: rgb("#f8ecd0"),
	}, curve.Smooth, pin{60, rgb("#f8ecd0")}, pin{200, rgb("#ffd98a")})
	r.signals = b.item(scene.Null, "Signals", "", values{"position": scene.Pt(-580, 220, 0)})
	flag := scene.Control{Name: "Flag", Kind: scene.ChoiceWidget, Default: scene.Num(0), Note: "Which of the six flags hangs on the quay, and how high. Its stops are poses."}
	flag.SetPoses(stopsOf("halves", "quarters", "disc", "stripes", "gate", "bars"))
	r.flag = b.control(r.signals, flag, curve.Hold, pin{0, scene.Num(0)}, pin{60, scene.Num(2)}, pin{120, scene.Num(4)}, pin{180, scene.Num(1)}, pin{240, scene.Num(5)})
	r.sparks = b.control(r.signals, scene.Control{
		Name: "Sparks", Kind: scene.SwitchWidget, Default: scene.On(true),
	}, curve.Hold, pin{0, scene.On(true)}, pin{210, scene.On(false)}, pin{250, scene.On(true)})
	b.control(r.signals, scene.Control{
		Name: "Spark pace", Kind: scene.Fader, SoftMin: 0, SoftMax: 5, Default: scene.Num(1), Step: 0.1, Note: "How fast the sparks come and go.",
	}, curve.Smooth, pin{0, scene.Num(0.5)}, pin{150, scene.Num(3)}, pin{299, scene.Num(0.8)})
	r.kite = b.control(r.signals, scene.Control{
		Name: "Kite", Kind: scene.PointWidget, Depth: true, SoftMin: -340, SoftMax: 340, Default: scene.Pt(-300, 180, 0), Note: "Where the sparks come from. They stay where they were born.",
	}, curve.Smooth)
	return r
}

// gusts swing the wind to and fro, stronger in the middle and at the end.
func gusts() []pin {
	var pins []pin
	for i := range 13 {
		x := float64(i)
		strength := 34 + 46*math.Pow(math.Sin(x*0.27), 2)
		if i%2 == 1 {
			strength *= -0.55
		}
		pins = append(pins, pin{i * 25, scene.Num(math.Round(strength))})
	}
	return pins
}

// flicker lets the glow of the lanterns breathe.
func flicker() []pin {
	var pins []pin
	for i, v := range []float64{30, 52, 74, 62, 80, 66, 84, 70, 78} {
		pins = append(pins, pin{i * 36, scene.Num(v)})
	}
	return pins
}

func round(x float64) float64  { return math.Round(x*10) / 10 }
func round2(x float64) float64 { return math.Round(x*100) / 100 }

// rgb reads #rrggbb.
func rgb(hex string) scene.Value {
	colour, ok := scene.FromHex(strings.TrimPrefix(hex, "#"))
	if !ok {
		panic("demo: " + hex + " is not a colour")
	}
	return colour
}
