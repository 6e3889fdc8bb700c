package svg

import (
	"math"
	"strings"

	"golang.org/x/image/colornames"

	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// parseColour reads a colour of CSS: a name, #rgb and longer, rgb(), rgba(), hsl(), hsla().
func parseColour(s string) (scene.Value, bool) {
	s = strings.ToLower(strings.TrimSpace(s))
	if hex, ok := strings.CutPrefix(s, "#"); ok {
		return scene.FromHex(hex)
	}
	if name, inside, ok := strings.Cut(s, "("); ok {
		return parseFunction(name, strings.TrimSuffix(strings.TrimSpace(inside), ")"))
	}
	if s == "transparent" {
		return scene.RGBA(0, 0, 0, 0), true
	}
	c, ok := colornames.Map[s]
	return scene.RGBA(float64(c.R)/255, float64(c.G)/255, float64(c.B)/255, 1), ok
}

func parseFunction(name, inside string) (scene.Value, bool) {
	fields := strings.FieldsFunc(inside, func(r rune) bool { return r == ',' || r == ' ' || r == '/' || r == '\t' })
	if len(fields) < 3 {
		return scene.Value{}, false
	}
	share := func(k int, whole float64) float64 {
		x := first(numbers(fields[k]))
		if strings.HasSuffix(fields[k], "%") {
			return num.Clamp(x/100, 0, 1)
		}
		return num.Clamp(x/whole, 0, 1)
	}
	alpha := 1.0
	if len(fields) > 3 {
		alpha = share(3, 1)
	}
	switch strings.TrimSuffix(strings.TrimSpace(name), "a") {
	case "rgb":
		return scene.RGBA(share(0, 255), share(1, 255), share(2, 255), alpha), true
	case "hsl":
		h, s, l := first(numbers(fields[0])), share(1, 100), share(2, 100)
		part := func(n float64) float64 { // the conversion of CSS Color 4
			k := n + h/30
			k -= float64(12 * math.Floor(k/12))
			return l - float64(s*min(l, 1-l)*num.Clamp(min(k-3, 9-k), -1, 1))
		}
		return scene.RGBA(part(0), part(8), part(4), alpha), true
	}
	return scene.Value{}, false
}

func first(n []float64) float64 {
	if len(n) == 0 {
		return 0
	}
	return n[0]
}

// inherited are the properties that an element hands on to what stands in it.
var inherited = []string{
	"fill", "fill-opacity", "fill-rule", "stroke", "stroke-opacity", "stroke-width", "stroke-linecap", "stroke-linejoin", "stroke-dasharray", "stroke-dashoffset",
	"color", "font-size", "font-family", "text-anchor", "visibility",
}

// style is what is known of how an element looks, by the names of CSS.
type style map[string]string

// own are further properties that an element keeps for itself.
var own = []string{"opacity", "display", "stop-color", "stop-opacity", "clip-path", "mask", "filter"}

// style returns the style of an element within another: attributes, then rules of style sheets, then
// its style attribute.
func (r *reader) style(e *element, outer style) style {
	s := style{}
	for _, name := range inherited {
		if v, ok := outer[name]; ok {
			s[name] = v
		}
	}
	set := func(name, value string) {
		name, value = strings.TrimSpace(name), strings.TrimSpace(strings.TrimSuffix(strings.TrimSpace(value), "!important"))
		if value == "inherit" {
			value = outer[name]
		}
		if value != "" {
			s[name] = value
		}
	}
	for _, list := range [][]string{inherited, own} {
		for _, name := range list {
			if v := e.get(name); v != "" {
				set(name, v)
			}
		}
	}
	for _, k := range r.rulesFor(e) {
		for _, d := range *r.rules[k].body {
			set(d.name, d.value)
		}
	}
	for _, d := range declarations(e.get("style")) {
		set(d.name, d.value)
	}
	return s
}

func clip(s string) string {
	if len(s) > 40 {
		return s[:40] + "…"
	}
	return s
}
