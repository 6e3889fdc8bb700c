package gesture

import (
	"strconv"
	"strings"

	"wunderkammer/core/scene"
)

// Number is the number behind a name; 0 for none.
func Number(name string) int {
	n, _ := strconv.Atoi(strings.TrimSpace(name[len(Stem(name)):]))
	return n
}

// Stem is a name without the number behind it.
func Stem(name string) string {
	at := len(name)
	for at > 0 && name[at-1] >= '0' && name[at-1] <= '9' {
		at--
	}
	if at > 1 && at < len(name) && name[at-1] == ' ' {
		return name[:at-1]
	}
	return name
}

// FreeName returns the base name, with the lowest number behind it that is not taken yet.
func FreeName(base string, taken map[string]bool) string {
	if !taken[base] {
		return base
	}
	return Numbered(base, 2, taken, nil)
}

// Full says of base names from which to which number behind them all are taken, so that many are not counted again and again.
type Full map[string][2]int

// NextName returns the name of a copy: numbered on from its model's, where that has a number.
func NextName(model string, taken map[string]bool, known Full) string {
	switch n := Number(model); {
	case n > 0 && n < 1e9:
		return Numbered(Stem(model), n+1, taken, known)
	case !taken[Stem(model)]:
		return Stem(model)
	}
	return Numbered(Stem(model), 2, taken, known)
}

// Numbered returns the base name with the lowest number behind it, from one on, that is not taken yet.
func Numbered(base string, from int, taken map[string]bool, known Full) string {
	n, span := from, known[base]
	if from < span[0] || from > span[1] {
		span = [2]int{from, from}
	}
	for n = max(n, span[1]); ; n++ {
		if name := base + " " + strconv.Itoa(n); !taken[name] {
			if known != nil {
				known[base] = [2]int{span[0], n}
			}
			return name
		}
	}
}

// ClipName cuts a name to what a name may have, with room for a number behind it.
func ClipName(name string) string {
	if r := []rune(name); len(r) > scene.MaxName-4 {
		return string(r[:scene.MaxName-4])
	}
	return name
}
