// Package brought is what those that read files of others share: what was not understood, and where what a file refers to is found.
package brought

import (
	"encoding/base64"
	"errors"
	"fmt"
	"math"
	"net/url"
	"path"
	"strings"

	"wunderkammer/core/scene"
)

// Missed counts what was not understood of a file. The zero value is ready to use.
type Missed struct {
	times map[string]int
	order []string
}

// Miss notes something once more.
func (m *Missed) Miss(what string) {
	if m.times == nil {
		m.times = map[string]int{}
	}
	if m.times[what] == 0 {
		m.order = append(m.order, what)
	}
	m.times[what]++
}

// Once notes something, however often it occurs.
func (m *Missed) Once(what string) {
	if m.times[what] == 0 {
		m.Miss(what)
	}
}

// List says what was not understood, with how often it occurs, in the order in which it was met.
func (m *Missed) List() (out []string) {
	for _, what := range m.order {
		if n := m.times[what]; n > 1 {
			what = fmt.Sprintf("%s, %d times", what, n)
		}
		out = append(out, what)
	}
	return out
}

// Picture is a picture of a file: its bytes, and what sort of picture they are.
type Picture struct {
	Name string `json:"name"`
	Type string `json:"type"` // its media type; empty where the file doesn't say
	Data []byte `json:"data"` // base64
}

// ErrDamaged is of a file that refers to what isn't in it.
var ErrDamaged = errors.New("the file is damaged: it refers to data that isn’t there. Export it again")

// At returns what stands at an address that a file gives: within it, or in one of the files that were chosen with it, by their names.
func At(uri string, parts map[string][]byte) ([]byte, error) {
	if head, body, ok := strings.Cut(uri, ","); ok && strings.HasPrefix(head, "data:") {
		data, err := base64.StdEncoding.DecodeString(body)
		if err != nil || !strings.HasSuffix(head, ";base64") {
			return nil, ErrDamaged
		}
		return data, nil
	}
	name, err := url.PathUnescape(uri)
	if err != nil {
		name = uri
	}
	data, ok := parts[path.Base(name)]
	if !ok {
		return nil, fmt.Errorf("it needs %s beside it. Choose or drop both together", scene.Clip(path.Base(name)))
	}
	return data, nil
}

// Named is a name that a file gives, cut to the length that names have, or another where it is none.
func Named(name, otherwise string) string {
	if runes := []rune(name); len(runes) > scene.MaxName {
		name = string(runes[:scene.MaxName])
	}
	if scene.CheckName(name) != nil {
		return otherwise
	}
	return name
}

// Tidy rounds to a millionth, so that what was written as whole numbers stays so.
func Tidy(x float64) float64 {
	return math.Round(x*1e6)/1e6 + 0 // no negative zero
}

// MaxStops bounds the colours of a gradient, its first and last among them.
const MaxStops = 100

// Ramp gives an item the colours of a gradient, one at least; of too many, some, which is noted.
func Ramp(item *scene.Item, stops []scene.Stop, m *Missed) {
	if n := len(stops); n > MaxStops {
		m.Miss(fmt.Sprintf("a gradient of %d colours, reduced to %d", n, MaxStops))
		thin := make([]scene.Stop, MaxStops)
		for k := range thin {
			thin[k] = stops[k*(n-1)/(MaxStops-1)]
		}
		stops = thin
	}
	first, last := stops[0], stops[len(stops)-1]
	item.Edit("fill").Own, item.Edit("secondFill").Own = first.Colour, last.Colour
	for k, s := range stops {
		if (k > 0 || s.At > 0) && (k < len(stops)-1 || s.At < 1) {
			item.Stops = append(item.Stops, s)
		}
	}
}

// Face returns which of the fonts that ship stands in for one of that name.
func Face(family string) int {
	family = strings.ToLower(family)
	switch {
	case strings.Contains(family, "mono") || strings.Contains(family, "courier"):
		return 2
	case strings.Contains(family, "serif") && !strings.Contains(family, "sans"), strings.Contains(family, "times"), strings.Contains(family, "georgia"):
		return 0
	}
	return 1
}
