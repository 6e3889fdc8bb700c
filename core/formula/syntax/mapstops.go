package syntax

import (
	"slices"
	"strconv"
	"strings"

	"wunderkammer/core/curve"
	"wunderkammer/core/scene"
)

// The words that may stand behind a stop: how it goes on from there, and, behind the last, what comes beyond.
var (
	StopEasings = []curve.Easing{curve.Linear, curve.Smooth, curve.Hold}
	StopBeyonds = []scene.Beyond{scene.GoOn, scene.Repeat, scene.Mirror}
)

// WriteStops returns the call of stops() that gives what a map gives at x; StopEasings and what lies beyond are left out where they are
// the usual ones.
func WriteStops(x Piece, stops []scene.MapStop, beyond scene.Beyond) Piece {
	args := []Piece{x}
	for _, s := range stops {
		args = append(args, Whole(scene.Exact(s.In)), WriteValue(s.Out))
		if s.Easing != curve.Linear {
			args = append(args, Whole(strconv.Quote(string(s.Easing))))
		}
	}
	if beyond != scene.HoldEnds {
		args = append(args, Whole(strconv.Quote(string(beyond))))
	}
	return Call("stops", args...)
}

// WriteValue writes a value as a literal that reads back as the same value.
func WriteValue(v scene.Value) Piece {
	list := func(xs []float64) (out []Piece) {
		for _, x := range xs {
			out = append(out, Whole(scene.Exact(x)))
		}
		return out
	}
	switch nums := v.Nums(); {
	case v.IsText():
		return Whole(`"` + strings.NewReplacer(`\`, `\\`, `"`, `\"`).Replace(v.Str()) + `"`)
	case len(nums) == 1:
		return Whole(scene.Exact(nums[0]))
	case len(nums) == 4: // in full, which #rrggbb has no room for
		return Call("alpha", Call("rgb", list(nums[:3])...), list(nums[3:])[0])
	default:
		return Operation(Point, list(nums)...)
	}
}

// ReadStops reads a call that WriteStops has written, or that could be: of stops that are written out.
func ReadStops(e *Expression) (stops []scene.MapStop, beyond scene.Beyond, ok bool) {
	if e.Sort != Apply || e.Text != "stops" || len(e.Args) < 5 {
		return nil, "", false
	}
	for k := 1; k < len(e.Args); k++ {
		v, plain := e.Args[k].Value()
		switch {
		case !plain || k > 1 && v.IsText() && len(stops) == 0:
			return nil, "", false
		case v.IsText() && slices.Contains(StopEasings, curve.Easing(v.Str())):
			stops[len(stops)-1].Easing = curve.Easing(v.Str())
		case v.IsText():
			beyond = scene.Beyond(v.Str())
			if k != len(e.Args)-1 || !slices.Contains(StopBeyonds, beyond) {
				return nil, "", false
			}
		case v.Len() != 1 || k+1 == len(e.Args):
			return nil, "", false
		default:
			k++
			out, plain := e.Args[k].Value()
			if !plain {
				return nil, "", false
			}
			stops = append(stops, scene.MapStop{In: v.At(0), Out: out, Easing: curve.Linear})
		}
	}
	return stops, beyond, len(stops) >= 2 && scene.CheckMapStops(stops, beyond, stops[0].Out.Kind()) == nil
}

// Value returns what a literal stands for, where it is one without a unit.
func (e *Expression) Value() (scene.Value, bool) {
	numbers := func(args []*Expression) (out []float64, ok bool) {
		for _, a := range args {
			v, plain := a.Value()
			if !plain || v.Len() != 1 || v.IsText() {
				return nil, false
			}
			out = append(out, v.At(0))
		}
		return out, true
	}
	switch {
	case e.Sort == Literal && strings.HasPrefix(e.Text, `"`):
		tokens, p := scan(e.Text)
		if p != nil || tokens[0].Kind != tokenText {
			return scene.Value{}, false
		}
		return scene.Txt(tokens[0].Text), true
	case e.Sort == Literal && strings.HasPrefix(e.Text, "#"):
		tokens, p := scan(e.Text)
		if p != nil || tokens[0].Kind != tokenColour {
			return scene.Value{}, false
		}
		return scene.NewValue(tokens[0].colour[:]), true
	case e.Sort == Literal:
		x, err := strconv.ParseFloat(e.Text, 64)
		return scene.Num(x), err == nil && x-x == 0
	case e.Sort == Operate && e.Text == Point:
		xs, ok := numbers(e.Args)
		if !ok || len(xs) < 2 || len(xs) > 3 {
			return scene.Value{}, false
		}
		return scene.Pt(xs...), true
	case e.Sort == Apply && e.Text == "rgb" && len(e.Args) == 3:
		xs, ok := numbers(e.Args)
		return scene.NewValue(append(xs, 1)), ok
	case e.Sort == Apply && e.Text == "alpha" && len(e.Args) == 2:
		colour, ok := e.Args[0].Value()
		a, plain := e.Args[1].Value()
		return colour.With(3, a.At(0)), ok && plain && colour.Len() == 4 && a.Len() == 1
	}
	return scene.Value{}, false
}
