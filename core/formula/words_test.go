package formula

import (
	"testing"

	"wunderkammer/core/formula/syntax"
)

func TestFormulasAreReadOutInPlainWords(t *testing.T) {
	for text, want := range map[string]string{
		"1 - (2 - 3)": "1 minus (2 minus 3).", "1 - 2 - 3": "1 minus 2 minus 3.", "2 + (3 + 4)": "2 plus 3 plus 4.", "8 / (4 / 2)": "8 over (4 over 2).", "2 ^ (3 ^ 2)": "2 to the power of (3 to the power of 2).",
		"wave(time - share)": "a wave over (time minus share).", "round({Crate: rotation}, 2)": "rotation of Crate rounded to 2 decimal places.", "pick(2, 3, 4)": "option 2 of 3 and 4.", "-(2 + 3)": "minus (2 plus 3).",
		"(own + 2).x": "x of (its own value plus 2).", "if(own < 2, 3 + 4, if(own > 6, 1, 5))": "if its own value is below 2: 3 plus 4, otherwise (if its own value is above 6: 1, otherwise 5).",
		"lean = {Weather: Wind} * 0.22\nif(index = 0, lean, delay({prev: rotation}, {Weather: Sway lag}))": "lean is Wind of Weather times 0.22. if index is 0: lean, otherwise rotation of the one before as it was Sway lag of Weather ago.",
		"clamp(1 + 2 * 3, 0, 100)":                                        "(1 plus (2 times 3)) limited to 0…100.",
		"({prev 2: opacity} else -4) + own":                               "(opacity of the one 2 before, or minus 4 if there is none) plus its own value.",
		"wave(time / 2) * 90deg > 3 or false":                             "((a wave over (time over 2) times 90°) is above 3) or false.",
		"every(noise(time), 4f)":                                          "noise along time sampled every 4 frames.",
		"max(1f, 2, [1, 2].x)":                                            "the largest of 1 frame, 2 and x of the point of 1 and 2.",
		"sin(30) - hsl(1, 2, 3).hue":                                      "sin of 30 minus hue of hsl of 1, 2 and 3.",
		"outer index * 2 + {outer prev: Sway} + {outer outer self: Sway}": "(index among the rows times 2) plus Sway of the one before among the rows plus Sway of itself among the rows of rows.",
		"1 +": "",
	} {
		if got := syntax.Read(text); got != want {
			t.Errorf("%q is read\n%s, want\n%s", text, got, want)
		}
	}
	for name := range syntax.Phrases {
		if functions[name] == nil {
			t.Errorf("a phrase for %s, which is no function", name)
		}
	}
}
