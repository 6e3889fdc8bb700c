package svg

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/image/colornames"

	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// parseColour reads a colour of CSS: a name, #rgb and longer, rgb(), rgba(), hsl(), hsla().
func parseColour(s string) (scene.Value, bool) {
	s = strings.ToLower(strings.TrimSpace(s))
	if hex, ok := strings.CutPrefix(s, "#"); ok {
		return parseHex(hex)
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

func parseHex(hex string) (scene.Value, bool) {
	if len(hex) == 3 || len(hex) == 4 {
		doubled := ""
		for _, d := range hex {
			doubled += string(d) + string(d)
		}
		hex = doubled
	}
	if len(hex) == 6 {
		hex += "ff"
	}
	n, err := strconv.ParseUint(hex, 16, 32)
	if err != nil || len(hex) != 8 {
		return scene.Value{}, false
	}
	part := func(shift int) float64 { return float64(n>>shift&0xff) / 255 }
	return scene.RGBA(part(24), part(16), part(8), part(0)), true
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
		declarations(r.rules[k].body, set)
	}
	declarations(e.get("style"), set)
	return s
}

func declarations(body string, set func(name, value string)) {
	for _, d := range strings.Split(body, ";") {
		if name, value, ok := strings.Cut(d, ":"); ok {
			set(strings.ToLower(name), value)
		}
	}
}

// rule is one rule of a style sheet with a simple selector: an element, .class, #id, or *.
type rule struct{ body string }

// maxStyled bounds the bytes of the bodies of rules that are applied to elements, all together.
const maxStyled = 8 << 20

// maxRules bounds the rules of all style sheets.
const maxRules = 20000

// rulesFor returns the rules that an element matches, in the order of the sheets.
func (r *reader) rulesFor(e *element) []int {
	if len(r.rules) == 0 {
		return nil
	}
	found := slices.Concat(r.bySelector["*"], r.bySelector[e.name])
	if id := e.get("id"); id != "" {
		found = append(found, r.bySelector["#"+id]...)
	}
	classes := strings.Fields(e.get("class"))
	slices.Sort(classes)
	for _, class := range slices.Compact(classes) {
		found = append(found, r.bySelector["."+class]...)
	}
	slices.Sort(found)
	found = slices.Compact(found)
	for n, k := range found {
		if r.styled += 1 + len(r.rules[k].body); r.styled > maxStyled {
			r.miss("more style rules than can be applied to all elements")
			return found[:n]
		}
	}
	return found
}

// sheet reads a style sheet. Selectors that are more than simple are reported.
func (r *reader) sheet(sheet string) {
	var plain strings.Builder
	for {
		before, rest, comment := strings.Cut(sheet, "/*")
		plain.WriteString(before)
		if !comment {
			break
		}
		_, sheet, _ = strings.Cut(rest, "*/")
	}
	text := plain.String()
	for _, block := range strings.Split(text, "}") {
		selectors, body, ok := strings.Cut(block, "{")
		if !ok {
			continue
		}
		for _, s := range strings.Split(selectors, ",") {
			s = strings.TrimSpace(s)
			if s == "" || strings.ContainsAny(s, " >+~[:@") || strings.ContainsAny(s[1:], ".#") {
				r.miss("a style rule for “" + clip(s) + "”")
				continue
			}
			if len(r.rules) >= maxRules {
				r.miss(fmt.Sprintf("style rules beyond the first %d", maxRules))
				return
			}
			if r.bySelector == nil {
				r.bySelector = map[string][]int{}
			}
			r.bySelector[s] = append(r.bySelector[s], len(r.rules))
			r.rules = append(r.rules, rule{body})
		}
	}
}

func clip(s string) string {
	if len(s) > 40 {
		return s[:40] + "…"
	}
	return s
}
