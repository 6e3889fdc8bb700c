package formula

import (
	"fmt"
	"math"

	"wunderkammer/core/formula/binding"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// Evaluate returns the value of a formula that refers to nothing, at a frame, and its type.
func Evaluate(text string, s *binding.Scope, frame float64) (scene.Value, binding.Type, error) {
	values, of, err := evaluated(text, s, frame)
	if err != nil {
		return scene.Value{}, binding.Type{}, err
	}
	return values[0], of, nil
}

// evaluated is Evaluate at some frames.
func evaluated(text string, s *binding.Scope, frames ...float64) ([]scene.Value, binding.Type, error) {
	c := Compile(text, s)
	if errs := c.Errors(); len(errs) > 0 {
		return nil, binding.Type{}, errs[0].Placed(text)
	}
	h := &alone{scope: s}
	values := make([]scene.Value, len(frames))
	for k, frame := range frames {
		out := h.run(c.Program, frame)
		if c.Type.Of == scene.Text && out[0] == out[0] {
			values[k] = scene.Txt(h.Text(out[0]))
			continue
		}
		for _, x := range out {
			if x-x != 0 {
				return nil, binding.Type{}, fmt.Errorf("the result is not finite: something is divided by zero, grows beyond all bounds, or is a text of more than %d bytes", scene.MaxText)
			}
		}
		values[k] = scene.NewValue(out)
	}
	return values, c.Type, nil
}

// alone is the env of a formula without a composition.
type alone struct {
	scope *binding.Scope
	texts []string
	looks []looked
	at    map[moment][]float64 // what programs gave at frames
}

// looked is what a slot stands for: a component of what is looked at at other times.
type looked struct {
	program   *machine.Program
	component int
}

type moment struct {
	program *machine.Program
	frame   float64
}

// maxMoments bounds what is kept of what programs gave.
const maxMoments = 1 << 17

func (h *alone) run(p *machine.Program, frame float64) []float64 {
	if known, ok := h.at[moment{p, frame}]; ok {
		return known
	}
	lane := machine.Lane{}
	for _, in := range p.Inputs {
		s := machine.Source{Kind: machine.FromNumber, X: in.Value}
		switch in.Kind {
		case machine.Frame:
			s.Kind = machine.FromFrame
		case machine.Words:
			s.X = h.Number(in.Text)
		case machine.Look:
			h.looks = append(h.looks, looked{p.Looks[in.Look], in.Component})
			s.X = float64(len(h.looks) - 1)
		case machine.Index, machine.Number, machine.Count, machine.Share:
			s.X = h.scope.Counted(in.Kind, in.Outer)
		case machine.Constant:
		default:
			s.X = math.NaN()
		}
		lane.In = append(lane.In, s)
	}
	for k := range p.Out {
		lane.Out = append(lane.Out, int32(k))
	}
	values := make([]float64, len(p.Out))
	machine.NewGroup(p, []machine.Lane{lane}).Run(values, nil, frame, h)
	if h.at == nil || len(h.at) > maxMoments {
		h.at = map[moment][]float64{}
	}
	h.at[moment{p, frame}] = values
	return values
}

func (h *alone) value(slots []float64) func(lane int, frame float64) float64 {
	return func(lane int, frame float64) float64 {
		l := h.looks[int(slots[lane])]
		return h.run(l.program, frame)[l.component]
	}
}

func (h *alone) Look(out, frames, slots []float64) { machine.Looks(out, frames, h.value(slots)) }

func (h *alone) Area(out, frames, slots []float64) {
	machine.Areas(out, frames, h.scope.Rate, h.value(slots))
}

func (h *alone) Average(out, frames, slots, spans []float64) {
	machine.Averages(out, frames, spans, h.value(slots))
}

func (h *alone) Text(handle float64) string {
	if handle >= 0 && int(handle) < len(h.texts) {
		return h.texts[int(handle)]
	}
	return ""
}

func (h *alone) Number(text string) float64 {
	h.texts = append(h.texts, text)
	return float64(len(h.texts) - 1)
}

func (h *alone) Cell(int32, int, float64) float64 { return math.NaN() }
func (h *alone) Row(int32, float64) float64       { return math.NaN() }

func (h *alone) Along(int32, float64) (x, y, heading float64) {
	return math.NaN(), math.NaN(), math.NaN()
}
