package formula

import (
	"fmt"
	"math"
	"strings"
	"testing"
	"time"

	"wunderkammer/core/formula/binding"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

func bare(index, count int) *binding.Scope {
	s := &binding.Scope{Rate: 25, Frames: 300, Width: 1280, Height: 720, Index: index}
	if count > 1 {
		s.Row = &scene.Row{Members: make([]scene.Member, count)}
	}
	return s
}

// close reports whether two printed values are the same but for the last few bits.
func near(got scene.Value, want []float64) bool {
	if got.Len() != len(want) {
		return false
	}
	for k, w := range want {
		if math.Abs(got.At(k)-w) > 1e-12*math.Max(1, math.Abs(w)) {
			return false
		}
	}
	return true
}

// Values worked out by hand or with the functions of the standard library, at frame 30 of a
// composition of 25 frames a second, for member 2 of 8.
var values = []struct {
	text string
	want []float64
}{
	{"1 + 2 * 3", []float64{7}}, {"(1 + 2) * 3", []float64{9}}, {"2 ^ 3 ^ 2", []float64{512}}, {"-2 ^ 2", []float64{-4}}, {"2 ^ -1", []float64{0.5}}, {"10 - 4 - 3", []float64{3}},
	{"1 / 4", []float64{0.25}}, {"1e3 + .5", []float64{1000.5}}, {"- - 3", []float64{3}}, {"+3", []float64{3}},
	{"6f", []float64{0.24}}, {"0.5s", []float64{0.5}}, {"90deg", []float64{90}}, {"0.25turn", []float64{90}}, {"1.2rad", []float64{1.2 * 180 / math.Pi}},
	{"#d9a441", []float64{217.0 / 255, 164.0 / 255, 65.0 / 255, 1}}, {"#d9a44180", []float64{217.0 / 255, 164.0 / 255, 65.0 / 255, 128.0 / 255}},
	{"[1, 2]", []float64{1, 2}}, {"[1, 2, 3].z", []float64{3}}, {"[1, 2, 3] * 2", []float64{2, 4, 6}}, {"[1, 2] * [3, 4]", []float64{3, 8}}, {"2 + [1, 2]", []float64{3, 4}},
	{"[7, 8, 9] + [1, 2]", []float64{8, 10, 9}}, {"[1, 2] - [7, 8, 9]", []float64{-6, -6, -9}}, {"[7, 8, 9] * [3, 2]", []float64{21, 16, 9}}, {"[3, 2] * [7, 8, 9]", []float64{21, 16, 9}}, {"[7, 8, 9] / [2, 4]", []float64{3.5, 2, 9}},
	{"#ffffff.a", []float64{1}}, {"-[1, 2]", []float64{-1, -2}},
	{"true", []float64{1}}, {"not true", []float64{0}}, {"true and false", []float64{0}}, {"true or false", []float64{1}}, {"not 1 = 2", []float64{1}},
	{"1 < 2", []float64{1}}, {"2 <= 2", []float64{1}}, {"3 > 4", []float64{0}}, {"4 >= 5", []float64{0}}, {"1 = 1", []float64{1}}, {"1 == 2", []float64{0}}, {"1 ≠ 2", []float64{1}}, {"1 != 1", []float64{0}},
	{"[1, 2] = [1, 2]", []float64{1}}, {`"a" = "b"`, []float64{0}}, {"1 + 1 = 2 and 3 < 4", []float64{1}},
	{"time", []float64{1.2}}, {"frame", []float64{30}}, {"fps", []float64{25}}, {"duration", []float64{12}}, {"width", []float64{1280}}, {"height", []float64{720}},
	{"index", []float64{2}}, {"number", []float64{3}}, {"count", []float64{8}}, {"share", []float64{2.0 / 7}}, {"pi", []float64{math.Pi}}, {"tau", []float64{2 * math.Pi}},
	{"a = 2\nb = a * 3\na + b", []float64{8}}, {"max(1, // a comment\n 2)", []float64{2}}, {"\n\n 7 // the result\n", []float64{7}},

	{"abs(-3)", []float64{3}}, {"sign(-3)", []float64{-1}}, {"sign(0)", []float64{0}}, {"floor(-2.5)", []float64{-3}}, {"ceil(2.1)", []float64{3}}, {"round(2.5)", []float64{3}}, {"round(3.14159, 2)", []float64{3.14}},
	{"fract(-0.25)", []float64{0.75}}, {"mod(370, 360)", []float64{10}}, {"mod(-30, 360)", []float64{330}}, {"min(3, 5, 1)", []float64{1}}, {"max(3, 5, 1)", []float64{5}},
	{"clamp(120, 0, 100)", []float64{100}}, {"clamp([-1, 2], 0, 1)", []float64{0, 1}}, {"pow(2, 10)", []float64{1024}}, {"pow(2, 0.3)", []float64{math.Pow(2, 0.3)}}, {"sqrt(2)", []float64{math.Sqrt2}},
	{"exp(1)", []float64{math.E}}, {"log(10)", []float64{math.Ln10}}, {"mix(10, 20, 0.25)", []float64{12.5}}, {"mix([0, 0], [10, 20], 0.5)", []float64{5, 10}},
	{"step(5, 7)", []float64{1}}, {"step(5, 3)", []float64{0}}, {"step(5, 5)", []float64{1}}, {"smoothstep(0, 10, 5)", []float64{0.5}}, {"smoothstep(0, 10, 2.5)", []float64{0.15625}}, {"smoothstep(0, 10, 20)", []float64{1}},
	{"map(50, 0, 100, 0, 1)", []float64{0.5}}, {"map(150, 0, 100, 0, 1)", []float64{1.5}}, {"map(1, 0, 2, [0, 0], [4, 8])", []float64{2, 4}},
	{"if(3 > 2, 10, 20)", []float64{10}}, {"if(0.4, 10, 20)", []float64{20}}, {"if(false, [1, 2], 3)", []float64{3, 3}}, {"pick(1, 10, 20, 30)", []float64{20}}, {"pick(-4, 10, 20)", []float64{10}}, {"pick(9, 10, 20)", []float64{20}},

	{"stops(40, 0, 10, 50, 20, 100, 80)", []float64{18}}, {"stops(-5, 0, 10, 50, 20)", []float64{10}}, {"stops(60, 0, 10, 50, 20)", []float64{20}}, {"stops(75, 0, 10, 50, 20, \"hold\", 100, 80)", []float64{20}},
	{"stops(25, 0, 0, \"smooth\", 50, 8)", []float64{4}}, {"stops(75, 0, 0, 50, 10, \"go on\")", []float64{15}}, {"stops(-10, 0, 0, 50, 10, \"go on\")", []float64{-2}}, {"stops(60, 0, 0, 50, 10, \"repeat\")", []float64{2}}, {"stops(60, 0, 0, 50, 10, \"mirror\")", []float64{8}},
	{"stops(-10, 0, 0, 50, 10, \"mirror\")", []float64{2}}, {"stops(0.5, 0, [0, 1], 1, [10, 3])", []float64{5, 2}}, {"stops(0.5, 0, [0, 1], 1, 10)", []float64{5, 5.5}}, {"stops(1.2, 0, #000000, 1, frame * #ffffff, \"hold\")", []float64{30, 30, 30, 30}},

	{"sin(30)", []float64{0.5}}, {"cos(60)", []float64{0.5}}, {"tan(45)", []float64{1}}, {"asin(0.5)", []float64{30}}, {"acos(0.5)", []float64{60}}, {"atan(1, 1)", []float64{45}}, {"atan(0, -1)", []float64{180}},
	{"sin(1rad)", []float64{math.Sin(1)}}, {"aim([0, 0], [0, 10])", []float64{90}}, {"aim([5, 5, 0], [0, 5, 9])", []float64{180}},
	{"length([3, 4])", []float64{5}}, {"length([2, 3, 6])", []float64{7}}, {"distance([1, 1], [4, 5])", []float64{5}}, {"dot([1, 2], [3, 4])", []float64{11}}, {"normalize([3, 4])", []float64{0.6, 0.8}},
	{"rgb(1, 0.5, 0)", []float64{1, 0.5, 0, 1}}, {"hsl(0, 1, 0.5)", []float64{1, 0, 0, 1}}, {"hsl(120, 1, 0.25)", []float64{0, 0.5, 0, 1}}, {"hsl(210, 0.5, 0.5)", []float64{0.25, 0.5, 0.75, 1}}, {"hsl(-120, 1, 0.5)", []float64{0, 0, 1, 1}},
	{"hue(#0000ff)", []float64{240}}, {"hue(rgb(0.25, 0.5, 0.75))", []float64{210}}, {"hue(#808080)", []float64{0}}, {"lightness(rgb(0.25, 0.5, 0.75))", []float64{0.5}}, {"rgb(0.25, 0.5, 0.75).saturation", []float64{0.5}}, {"alpha(#ffffff, 0.5)", []float64{1, 1, 1, 0.5}},
	{"mixlight(#000000, #ffffff, 0.5)", []float64{0.7353569830524495, 0.7353569830524495, 0.7353569830524495, 1}}, {"mix(#336699, #cc33ff80, 0.3)", []float64{0.2 + 0.6*0.3, 0.4 - 0.2*0.3, 0.6 + 0.4*0.3, 1 - 0.3*(1-128.0/255)}}, {"mixlight(10, 20, 0.3)", []float64{13}}, {"mix(#ff0000, #ff000000, 0.25).a", []float64{0.75}},
	{"wave(0.25)", []float64{1}}, {"wave(-0.25)", []float64{-1}}, {"wave(1/12)", []float64{0.5}}, {"saw(0.75)", []float64{0.5}}, {"saw(0)", []float64{-1}}, {"square(0.25)", []float64{1}}, {"square(0.75)", []float64{-1}},
	{"triangle(0.125)", []float64{0.5}}, {"triangle(0.25)", []float64{1}}, {"triangle(0.75)", []float64{-1}}, {"triangle(0)", []float64{0}}, {"noise(0, 4) = noise(0, 5)", []float64{0}}, {"(0 < 1) = (1 < 2)", []float64{1}}, {"smoothstep(5, 5, 4)", []float64{0}}, {"smoothstep(5, 5, 5)", []float64{1}}, {"round(-2.5)", []float64{-3}}, {"round(2.5)", []float64{3}}, {"x = 3\nx = 3", []float64{1}}, {"x = 3\nx = 4", []float64{0}},

	{"delay(frame, 5f)", []float64{25}}, {"delay(frame, -5f)", []float64{35}}, {"delay(time, 0.2s)", []float64{1}}, {"at(frame, 2s)", []float64{50}}, {"every(frame, 8f)", []float64{24}}, {"every(frame, 0)", []float64{30}},
	{"accumulate(5)", []float64{6}}, {"accumulate(time)", []float64{0.72}}, {"accumulate([5, 10])", []float64{6, 12}}, {"average(frame, 10f)", []float64{25}}, {"average(frame, 0)", []float64{30}}, {"loop(frame, 0s, 1s)", []float64{5}}, {"loop(frame, 10f, 14f)", []float64{10}},
	{"delay(delay(frame, 5f), 5f)", []float64{20}}, {"x = frame * 2\ndelay(x, 5f) + x", []float64{110}}, {"delay(index + frame, number * 1f)", []float64{29}},
}

func TestEveryFunctionOperatorAndUnit(t *testing.T) {
	used := ""
	for _, c := range values {
		used += c.text + "\n"
		got, _, err := Evaluate(c.text, bare(2, 8), 30)
		if err != nil || !near(got, c.want) {
			t.Errorf("%s = %v, %v; want %v", c.text, got, err, c.want)
		}
	}
	for _, c := range []struct{ text, want string }{
		{`text("Gate ", 3)`, "Gate 3"}, {`text(0.5, "·", true)`, "0.5·1"}, {`fixed(3.14159, 2)`, "3.14"}, {`fixed(-0.001, 2)`, "0.00"}, {`if(true, "a", "b")`, "a"}, {`"say \"yes\""`, `say "yes"`}, {`pick(1, "a", "b")`, "b"},
	} {
		used += c.text
		got, _, err := Evaluate(c.text, bare(0, 1), 0)
		if err != nil || got.Str() != c.want {
			t.Errorf("%s = %v, %v; want %q", c.text, got, err, c.want)
		}
	}
	for _, f := range Functions {
		switch f.Name {
		case "along", "heading", "zone", "cell", "random", "sum", "mean", "least", "greatest", "count", "first", "last", "nth", "nearest", "weighted": // tried where there is a path, a zone, a table or a list, and below
			continue
		}
		if !strings.Contains(used, f.Name+"(") {
			t.Errorf("no value of %s is known", f.Name)
		}
		if _, _, err := Evaluate(f.Example, bare(0, 1), 0); err != nil && !strings.Contains(f.Example, "{") {
			t.Errorf("the example of %s: %v", f.Name, err)
		}
	}
}

func TestChanceIsEvenRepeatableAndSmooth(t *testing.T) {
	sum, low, high := 0.0, 1.0, -1.0
	const n = 20000
	for i := range n {
		x := machine.Random(float64(i))
		sum += x
		low, high = math.Min(low, x), math.Max(high, x)
	}
	if math.Abs(sum/n) > 0.02 || low < -1 || low > -0.99 || high > 1 || high < 0.99 {
		t.Errorf("random: mean %v from %v to %v", sum/n, low, high)
	}
	got, _, err := Evaluate("random(10, 20, 3)", bare(0, 1), 0)
	if err != nil || got.At(0) < 10 || got.At(0) > 20 || math.Abs(got.At(0)-(15+5*machine.Random(3))) > 1e-12 {
		t.Errorf("random(10, 20, 3) = %v, %v", got, err)
	}
	last, reach := machine.Noise(0, 4), 0.0
	for x := 0.0; x < 200; x += 0.01 {
		v := machine.Noise(x, 4)
		if math.Abs(v-last) > 0.05 || v != machine.Noise(x, 4) {
			t.Fatalf("noise jumps at %v from %v to %v", x, last, v)
		}
		last, reach = v, math.Max(reach, math.Abs(v))
	}
	if reach > 1 || reach < 0.5 {
		t.Errorf("noise reaches %v", reach)
	}
	if machine.Noise(0.5, 4) == machine.Noise(0.5, 5) {
		t.Error("another seed gives the same noise")
	}
}

// Formulas that are wrong, with the piece at fault and what is said of it.
var wrong = []struct{ text, piece, sentence, fixed string }{
	{"", "", "the formula is empty", ""},
	{"1 +", "+", "something is missing at the end of the line", ""},
	{"(1 + 2", "(", "missing closing bracket", "(1 + 2)"},
	{"[1, 2", "[", "missing closing bracket", "[1, 2]"},
	{"max(1, 2", "(", "missing closing bracket", "max(1, 2)"},
	{"1 + 2)", ")", "no opening counterpart", "1 + 2"},
	{"1 2", "2", "an operator is missing before 2", "1 * 2"},
	{"2 ? 3", "?", "a choice is written if(", ""},
	{"1 > 0 ? 2 : 3", "?", "a choice is written if(", "if(1 > 0, 2, 3)"},
	{"x = time\ny = x > 1 ? x : 0\ny", "?", "a choice is written if(", "x = time\ny = if(x > 1, x, 0)\ny"},
	{"if time > 1 then 2 else 3", "if", "a choice is written if(", "if(time > 1, 2, 3)"},
	{"return time * 2", "return", "the last line is the result", "time * 2"},
	{"3px", "px", "leave out px", "3"},
	{"3 px + 1", "px", "leave out px", "3 + 1"},
	{"3 f", "f", "directly after its number", "3f"},
	{"3frames", "frames", "is not a unit", "3f"},
	{"3wide", "wide", "is not a unit", "3 * wide"},
	{"2 − 3", "−", "a minus is written -", "2 - 3"},
	{"2 × 3", "×", "times is written *", "2 * 3"},
	{"6 ÷ 3", "÷", "divided by is written /", "6 / 3"},
	{"1 ≤ 3", "≤", "at most is written <=", "1 <= 3"},
	{"true && false", "&&", "is written and", "true and false"},
	{"true || false", "||", "is written or", "true or false"},
	{"a = 3; a", ";", "a new line", "a = 3\n a"},
	{"“a”", "“", "straight quotes", "\"a”"},
	{"2 ** 3", "**", "is written ^", "2 ^ 3"},
	{"50%", "%", "as its number", "50"},
	{"frame % 10", "%", "mod(a, b)", "mod(frame, 10)"},
	{"a = frame % 10\na", "%", "mod(a, b)", "a = mod(frame, 10)\na"},
	{"(1, 2)", ",", "square brackets", "[1, 2)"},
	{"0 < time < 50", "0 < time < 50", "can't be chained", "0 < time and time < 50"},
	{"€", "€", "isn't allowed in a formula", ""},
	{"#d9a4", "#d9a4", "6 or 8 digits", ""},
	{`"abc`, `"abc`, "missing closing quote", `"abc"`},
	{"{Rig: x", "{Rig: x", "missing }", "{Rig: x}"},
	{"{: x}", ": x", "has no owner", ""},
	{"{Rig:}", "Rig:", "has no property", ""},
	{"{}", "", "has no owner", ""},
	{"a = 3", "a", "only names a value", "a = 3\na"},
	{"time = 3\ntime", "time", "is a reserved name", ""},
	{"a = 1\na = 2\na", "a", "is named twice", ""},
	{"x = x\ndelay(x, 1f)", "x", "nothing named x", ""},
	{"a = b\nb = a\naverage(a + b, 2f)", "b", "nothing named b", ""},
	{"a = a + 1\na", "a", "nothing named a", ""},
	{"tiem * 2", "tiem", "nothing named tiem", "time * 2"},
	{"wave", "wave", "wave is a function: wave(cycles)", "wave()"},
	{"wobble(3)", "wobble", "no function named wobble", ""},
	{"waves(3)", "waves", "no function named waves", "wave(3)"},
	{"clamp(1, 2)", "clamp(1, 2)", "clamp(x, low, high)", ""},
	{"random(1, 2)", "random(1, 2)", "random(seed) or random(a, b, seed)", ""},
	{"sin([1, 2]) and 1", "sin([1, 2])", "needs a number here, not a 2D point", "sin([1, 2]).x and 1"},
	{"[1, 2] / [1, 2, 3]", "[1, 2] / [1, 2, 3]", "can't be combined", ""},
	{"mix([1, 2], [1, 2, 3], 0.3)", "mix([1, 2], [1, 2, 3], 0.3)", "can't be combined", ""},
	{"Math.sin(30) + 1", "Math.sin", "by their names alone", "sin(30) + 1"},
	{"2 * Math.PI", "Math", "pi is there by itself", "2 * pi"},
	{"[1]", "[1]", "two or three components", ""},
	{"[1, 2].z", "[1, 2].z", "no component z; it has x, y", ""},
	{"(1).x", "(1).x", "has no components", ""},
	{"1 + \"a\"", "\"a\"", "can't calculate with a text", ""},
	{"\"a\" = 1", "\"a\" = 1", "never the same", ""},
	{"if(1, 2, \"a\")", "\"a\"", "values of one type", ""},
	{"stops(\"a\", 0, 1, 2, 3)", "\"a\"", "the number to look up", ""}, {"stops(1, 0, 1, time, 3)", "time", "depends on something", ""}, {"stops(1, 4, 1, 2, 3)", "2", "rising order", ""}, {"stops(1, 4, 1, 5, 3, 6)", "6", "has no value", ""},
	{"stops(1, 4, 1, \"soft\", 5, 3)", "\"soft\"", "behind a stop", ""}, {"stops(1, 4, 1, \"repeat\", 5, 3)", "\"repeat\"", "behind a stop", ""}, {"stops(1, 4, 1, \"hold\", \"go on\")", "stops(1, 4, 1, \"hold\", \"go on\")", "two stops", ""}, {"stops(1, 4, 1, 5, \"a\")", "\"a\"", "values of one type", ""},
	{"delay(time, 5)", "5", "this needs a time", "delay(time, 5 * 1f)"},
	{"delay(time, index + 1)", "index + 1", "this needs a time", "delay(time, (index + 1) * 1f)"},
	{"{Rig: amount}", "Rig: amount", "no composition here", ""},
	{"own + 1", "own", "where a property is driven", ""},
	{"1 else 2", "1 else 2", "else goes after a reference", ""},
	{"hue(3)", "3", "needs a colour here", ""},
	{"aim(1, [1, 2])", "1", "needs a point here", ""},
	{"length(\"a\")", "\"a\"", "can't calculate with a text", ""},
	{"along([1, 2], 0.5)", "[1, 2]", "needs a path here", ""},
	{"1.", ".", "a component", ""},
	{"and 1", "and", "isn't allowed here", ""},
	{"1, 2", ",", "isn't allowed here", ""},
	{"1,2", "1,2", "the decimal point is a point", "1.2"},
	{"(3,5)", "3,5", "the decimal point is a point", "(3.5)"},
}

func TestWhatIsWrongIsSaidWithItsPlaceAndItsWayOut(t *testing.T) {
	if len(wrong) < 40 {
		t.Fatal("forty wrong formulas are tried")
	}
	for _, c := range wrong {
		errs := Compile(c.text, bare(0, 1)).Errors()
		if len(errs) == 0 {
			t.Errorf("%q passes", c.text)
			continue
		}
		e := errs[0]
		if got := c.text[e.At:min(e.End, len(c.text))]; got != c.piece || !strings.Contains(e.Sentence, c.sentence) {
			t.Errorf("%q: at %q: %s; want at %q: %s", c.text, got, e.Sentence, c.piece, c.sentence)
		}
		if c.fixed == "" {
			continue
		}
		if len(e.Fixes) == 0 {
			t.Errorf("%q: no way out is offered", c.text)
			continue
		}
		for _, f := range e.Fixes {
			if strings.TrimSpace(f.Label) == "" {
				t.Errorf("%q: a way out has no name", c.text)
			}
		}
		f := e.Fixes[0]
		if got := c.text[:f.At] + f.Text + c.text[f.End:]; got != c.fixed {
			t.Errorf("%q mended is %q, want %q", c.text, got, c.fixed)
		}
	}
	long := strings.Repeat("1+", syntax.MaxLength/2) + "1 "
	for text, sentence := range map[string]string{
		long + "+ 1": "longer than 20000 characters", strings.Repeat("(", 70) + "1" + strings.Repeat(")", 70): "nested more than 64", strings.Repeat("-", 70) + "1": "nested more than 64",
		"x = noise(frame)\n" + strings.Repeat("x = ", 0) + strings.Repeat("noise(frame + 0.5, ", 60) + "1" + strings.Repeat(")", 60): "",
	} {
		errs := Compile(text, bare(0, 1)).Errors()
		if sentence == "" && len(errs) > 0 || sentence != "" && (len(errs) == 0 || !strings.Contains(errs[0].Sentence, sentence)) {
			t.Errorf("%.30s…: %v, want %q", text, errs, sentence)
		}
	}
	many := ""
	for i := range 600 {
		many += fmt.Sprintf("x%d=sin(frame+%d)*%d\n", i, i, i)
	}
	sum := "0"
	for i := range 600 {
		sum += fmt.Sprintf("+x%d", i)
	}
	if errs := Compile(many+sum, bare(0, 1)).Errors(); len(errs) != 1 || !strings.Contains(errs[0].Sentence, "more than 2000 operations") {
		t.Errorf("2,400 operations: %v", errs)
	}
	if line, column := syntax.Place("a = 1\nbé + x", 11); line != 2 || column != 5 {
		t.Errorf("line %d, column %d", line, column)
	}
}

func TestNestingIsBounded(t *testing.T) {
	nested := func(n int) string { return strings.Repeat("(", n) + "1" + strings.Repeat(")", n) }
	if errs := Compile(nested(syntax.MaxDepth-1), bare(0, 1)).Errors(); len(errs) > 0 {
		t.Errorf("as deep as allowed: %v", errs)
	}
	if errs := Compile(nested(syntax.MaxDepth), bare(0, 1)).Errors(); len(errs) != 1 || !strings.Contains(errs[0].Sentence, "nested more than 64 levels") {
		t.Errorf("a level deeper: %v", errs)
	}
}

// Compiling takes a time that grows with what is written, however looks at other times are chained.
func TestChainedLooksAreLoweredOnce(t *testing.T) {
	text := "a0 = time\n"
	for k := 1; k < 60; k++ {
		text += fmt.Sprintf("a%d = delay(a%d, 1f) + delay(a%d, 2f)\n", k, k-1, k-1)
	}
	start := time.Now()
	v, _, err := Evaluate(text+"a20", bare(0, 1), 100)
	if took := time.Since(start); err != nil || took > 2*time.Second || v.At(0) != 1<<20*(100-30)/25.0 {
		t.Errorf("%v, %v after %v", v, err, took)
	}
}

// Whether a formula is a percent does not depend on the order of what it chooses among, and a plain number beside a percent is
// told of, with two ways to say what is meant.
func TestTheUnitIsThatOfAllBranches(t *testing.T) {
	box := &scene.Item{ID: "box", Name: "Box", Kind: scene.Rectangle}
	scope := func() *binding.Scope {
		s := bare(0, 1)
		s.Find = func(id scene.ID) *scene.Item { return box }
		s.Named = func(string) []*scene.Item { return []*scene.Item{box} }
		s.Items = func() []*scene.Item { return []*scene.Item{box} }
		return s
	}
	for text, told := range map[string]bool{
		"if(frame > 3, 3, {Box: opacity})": true, "if(frame > 3, {Box: opacity}, 3)": true, "clamp(20, 0, {Box: opacity})": true, "clamp({Box: opacity}, 0, 100)": false,
		"pick(1, 7, {Box: opacity}, 9)": true, "min(0, {Box: opacity})": false, "max({Box: opacity}, 0.3)": true, "if(true, {Box: opacity} * 1, 3)": false, "mix({Box: opacity}, {Box: opacity}, 0.3)": false,
	} {
		c := Compile(text, scope())
		if c.Type.Unit != scene.Percent || len(c.Errors()) > 0 || (len(c.Problems) > 0) != told {
			t.Errorf("%s: unit %q, problems %v", text, c.Type.Unit, c.Problems)
		}
		for _, p := range c.Problems {
			for k, fix := range p.Fixes {
				fixed := Compile(text[:fix.At]+fix.Text+text[fix.End:], scope())
				if len(fixed.Errors()) > 0 || k == 1 && (fixed.Type.Unit != scene.Percent || len(fixed.Problems) > 0) {
					t.Errorf("%s, %s: %v", text, fix.Label, fixed.Problems)
				}
			}
		}
	}
}

// FuzzCompile: whatever is typed, the compiler answers with a program or with errors that have a place.
func FuzzCompile(f *testing.F) {
	for _, c := range values {
		f.Add(c.text)
	}
	for _, c := range wrong {
		f.Add(c.text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		s := bare(1, 3)
		c := Compile(text, s)
		if (c.Program == nil) != (len(c.Errors()) > 0) {
			t.Fatalf("program %v, errors %v", c.Program != nil, c.Errors())
		}
		for _, p := range c.Problems {
			if p.Sentence == "" || p.At < 0 || p.End < p.At || p.End > len(text) {
				t.Fatalf("%+v", p)
			}
		}
		if c.Program != nil && len(c.Program.Looks) == 0 {
			(&alone{scope: s}).run(c.Program, 12)
		}
	})
}
