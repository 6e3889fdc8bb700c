package formula

import (
	"slices"
	"strings"

	"wunderkammer/core/formula/syntax"
)

// IsWord reports whether a name has a meaning everywhere, so that no value can have it.
func IsWord(name string) bool {
	return builtins[name] != nil || functions[name] != nil || syntax.Keywords[name] || name == "outer"
}

// FunctionOf returns a function by its name, or nil.
func FunctionOf(name string) *Function { return functions[name] }

// Arity returns how many arguments a function takes at least and at most.
func (f *Function) Arity() (least, most int) { return f.least, f.most }

// Elsewhen reports whether a function looks at its first argument at other times.
func (f *Function) Elsewhen() bool { return f.Group == timesGroup }

// Reduces reports whether a function makes one value of a list.
func (f *Function) Reduces() bool { return f.Group == listsGroup }

// Arguments returns what the arguments are called, where there are so many of them.
func (f *Function) Arguments(count int) []string {
	var best []string
	for _, usage := range strings.Split(f.Usage, " or ") {
		_, list, _ := strings.Cut(strings.TrimSuffix(usage, ")"), "(")
		names := strings.Split(list, ", ")
		if more := slices.Index(names, "…"); more >= 0 {
			names = names[:more]
		}
		if best == nil || len(names) == count || len(best) < count && len(names) > len(best) {
			best = names
		}
	}
	for len(best) < count { // one that goes on
		best = append(best, "")
	}
	return best[:count]
}

// Unknown lists the names of a formula that are neither those of its lines nor known everywhere, in the order in which
// they come; nothing of a formula that cannot be read.
func Unknown(text string) []string {
	var out []string
	statements, p := syntax.Syntax(text)
	if p != nil {
		return nil
	}
	known := map[string]bool{}
	var walk func(e *syntax.Expression)
	walk = func(e *syntax.Expression) {
		if e.Sort == syntax.Word && !known[e.Text] && !IsWord(e.Text) && !strings.Contains(e.Text, " ") && !slices.Contains(out, e.Text) {
			out = append(out, e.Text)
		}
		for _, a := range e.Args {
			walk(a)
		}
	}
	for _, s := range statements {
		walk(s.Value)
		known[s.Name] = true
	}
	return out
}
