package formula

import (
	"fmt"
	"math"

	"wunderkammer/core/scene"
)

// Evaluate returns the value of a formula that refers to nothing, at a frame, and its type.
func Evaluate(text string, s *Scope, frame float64) (scene.Value, Type, error) {
	values, of, err := evaluated(text, s, frame)
	if err != nil {
		return scene.Value{}, Type{}, err
	}
	return values[0], of, nil
}

// evaluated is Evaluate at some frames.
func evaluated(text string, s *Scope, frames ...float64) ([]scene.Value, Type, error) {
	c := Compile(text, s)
	if errs := c.Errors(); len(errs) > 0 {
		return nil, Type{}, errs[0].Placed(text)
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
				return nil, Type{}, fmt.Errorf("the result is not finite: something is divided by zero, grows beyond all bounds, or is a text of more than %d bytes", scene.MaxText)
			}
		}
		values[k] = scene.NewValue(out)
	}
	return values, c.Type, nil
}

// alone is the env of a formula without a composition.
type alone struct {
	scope *Scope
	texts []string
	looks []looked
	at    map[moment][]float64 // what programs gave at frames
}

// looked is what a slot stands for: a component of what is looked at at other times.
type looked struct {
	program   *Program
	component int
}

type moment struct {
	program *Program
	frame   float64
}

// maxMoments bounds what is kept of what programs gave.
const maxMoments = 1 << 17

func (h *alone) run(p *Program, frame float64) []float64 {
	if known, ok := h.at[moment{p, frame}]; ok {
		return known
	}
	lane := Lane{}
	for _, in := range p.Inputs {
		s := Source{Kind: FromNumber, X: in.Value}
		switch in.Kind {
		case Frame:
			s.Kind = FromFrame
		case Words:
			s.X = h.Number(in.Text)
		case Look:
			h.looks = append(h.looks, looked{p.Looks[in.Look], in.Component})
			s.X = float64(len(h.looks) - 1)
		case Index, Number, Count, Share:
			s.X = h.scope.Counted(in.Kind, in.Outer)
		case Constant:
		default:
			s.X = math.NaN()
		}
		lane.In = append(lane.In, s)
	}
	for k := range p.Out {
		lane.Out = append(lane.Out, int32(k))
	}
	values := make([]float64, len(p.Out))
	NewGroup(p, []Lane{lane}).Run(values, nil, frame, h)
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

func (h *alone) Look(out, frames, slots []float64) { Looks(out, frames, h.value(slots)) }

func (h *alone) Area(out, frames, slots []float64) { Areas(out, frames, h.scope.Rate, h.value(slots)) }

func (h *alone) Average(out, frames, slots, spans []float64) {
	Averages(out, frames, spans, h.value(slots))
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

func (h *alone) Along(int32, float64) (x, y, heading float64) {
	return math.NaN(), math.NaN(), math.NaN()
}

// MaxFrame bounds the frames that can be looked at.
const MaxFrame = 1e7

// Within reports whether a frame can be looked at; NaN cannot.
func Within(frame float64) bool { return math.Abs(frame) < MaxFrame }

// Looks is what an env shows at other times where it knows what stands in the slot of a lane at a frame.
func Looks(out, frames []float64, at func(lane int, frame float64) float64) {
	for i, frame := range frames {
		out[i] = math.NaN()
		if Within(frame) {
			out[i] = at(i, frame)
		}
	}
}

// Areas is likewise what it has added up to.
func Areas(out, frames []float64, rate float64, at func(lane int, frame float64) float64) {
	Looks(out, frames, func(i int, frame float64) float64 {
		return Area(frame, rate, func(f float64) float64 { return at(i, f) })
	})
}

// Averages is likewise the mean over some frames.
func Averages(out, frames, spans []float64, at func(lane int, frame float64) float64) {
	Looks(out, frames, func(i int, frame float64) float64 {
		if !Within(spans[i]) {
			return math.NaN()
		}
		return Average(frame, spans[i], func(f float64) float64 { return at(i, f) })
	})
}

// Area returns what a value adds up to from frame 0 to a frame, by the second: frame by frame, each by its
// middle, which is exact for values that jump at whole frames and for straight lines.
func Area(frame, rate float64, at func(float64) float64) float64 {
	if frame < 0 {
		return -Over(frame, 0, at) / rate
	}
	return Over(0, frame, at) / rate
}

// Over returns the area under a value from one frame to a later one, cut at whole frames, each piece by its middle.
func Over(from, to float64, at func(float64) float64) float64 {
	sum := 0.0
	for from < to {
		next := min(math.Floor(from)+1, to)
		sum += float64(at(Middle(from, next)) * (next - from))
		from = next
	}
	return sum
}

// Middle returns the frame halfway between two, with the same bits on every processor.
func Middle(from, to float64) float64 { return from + float64((to-from)/2) }

// Average returns the mean of a value over some frames that end at a frame. At a whole frame it is the area over them
// by as many frames. In between, a window of whole frames is taken by the middles of the frames that it touches, the
// first and the last by as much as it has of them: that is exact for values that jump at whole frames and for straight
// lines, too, and averages of averages look at the same few frames. Any other window, and one of more than some
// thousand frames, is taken in even pieces by their middles.
func Average(frame, frames float64, at func(float64) float64) float64 {
	from, to := frame-frames, frame
	if frames < 0 {
		from, to = to, from
	}
	n := math.Ceil(to - from)
	switch {
	case n == 0:
		return at(frame)
	case n <= MaxAverage && frame == math.Floor(frame):
		return Over(from, to, at) / (to - from)
	case n <= MaxAverage && n == to-from:
		first := math.Floor(from)
		share := from - first // of the last
		sum := float64((1 - share) * at(first+0.5))
		for k := 1.0; k < n; k++ {
			sum += at(first + k + 0.5)
		}
		return (sum + float64(share*at(first+n+0.5))) / n
	}
	n = math.Min(n, MaxAverage)
	step, sum := (to-from)/n, 0.0
	for k := range int(n) {
		sum += at(to - float64((float64(k)+0.5)*step))
	}
	return sum / n
}

// MaxAverage bounds the pieces of an average.
const MaxAverage = 2000
