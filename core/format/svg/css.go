package svg

import (
	"fmt"
	"slices"
	"strings"

	input "github.com/tdewolff/parse/v2"
	"github.com/tdewolff/parse/v2/css"
)

// declaration is one property of a style, by its name in small letters.
type declaration struct{ name, value string }

// rule is one rule of a style sheet with a simple selector: an element, .class, #id, or *.
type rule struct {
	body *[]declaration // shared by the selectors of a rule
	size int            // bytes
}

// maxStyled bounds the bytes of the bodies of rules that are applied to elements, all together.
const maxStyled = 8 << 20

// maxRules bounds the rules of all style sheets.
const maxRules = 20000

// declarations reads a style attribute.
func declarations(text string) (out []declaration) {
	if text == "" {
		return nil
	}
	p := css.NewParser(input.NewInputString(text), true)
	for {
		grammar, _, name := p.Next()
		switch grammar {
		case css.ErrorGrammar:
			if p.HasParseError() { // one that cannot be read; others follow
				continue
			}
			return out
		case css.DeclarationGrammar:
			out = append(out, declared(name, p.Values()))
		}
	}
}

func declared(name []byte, values []css.Token) declaration {
	return declaration{strings.ToLower(string(name)), written(values)}
}

func written(tokens []css.Token) string {
	var b strings.Builder
	for _, t := range tokens {
		b.Write(t.Data)
	}
	return strings.TrimSpace(b.String())
}

// sheet reads a style sheet. Selectors that are more than simple are reported, and so is what stands inside of a
// condition, such as that of a medium.
func (r *reader) sheet(text string) {
	p := css.NewParser(input.NewInputString(text), false)
	var selectors []string
	var body *[]declaration
	from, inside := 0, 0
	for {
		grammar, _, data := p.Next()
		switch grammar {
		case css.ErrorGrammar:
			if p.HasParseError() {
				continue
			}
			return
		case css.BeginAtRuleGrammar:
			r.Miss("style rules for “" + clip(string(data)) + "”")
			inside++
		case css.EndAtRuleGrammar:
			inside--
		case css.BeginRulesetGrammar:
			selectors, body, from = strings.Split(written(p.Values()), ","), &[]declaration{}, p.Offset()
		case css.DeclarationGrammar:
			if body != nil {
				*body = append(*body, declared(data, p.Values()))
			}
		case css.EndRulesetGrammar:
			if inside == 0 && !r.rule(selectors, rule{body, p.Offset() - from}) {
				return
			}
			selectors, body = nil, nil
		}
	}
}

// rule notes a rule under its selectors; false where there are too many.
func (r *reader) rule(selectors []string, one rule) bool {
	for _, s := range selectors {
		if s = strings.TrimSpace(s); s == "" || strings.ContainsAny(s, " >+~[:@") || strings.ContainsAny(s[1:], ".#") {
			r.Miss("a style rule for “" + clip(s) + "”")
			continue
		}
		if len(r.rules) >= maxRules {
			r.Miss(fmt.Sprintf("style rules beyond the first %d", maxRules))
			return false
		}
		if r.bySelector == nil {
			r.bySelector = map[string][]int{}
		}
		r.bySelector[s] = append(r.bySelector[s], len(r.rules))
		r.rules = append(r.rules, one)
	}
	return true
}

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
		if r.styled += 1 + r.rules[k].size; r.styled > maxStyled {
			r.Miss("more style rules than can be applied to all elements")
			return found[:n]
		}
	}
	return found
}
