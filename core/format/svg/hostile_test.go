package svg

import (
	"fmt"
	"runtime"
	"strings"
	"syscall"
	"testing"
	"time"

	"wunderkammer/core/scene"
)

// Small files that would come to much: each is read, or refused, in little time and memory, and what was left out is said.
func TestHostileDrawings(t *testing.T) {
	if testing.Short() {
		t.Skip("it takes its time")
	}
	wrapped := func(inside string) string {
		return `<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9">` + inside + `<rect width="5" height="5"/></svg>`
	}
	uses := `<g id="u0"><path d="M0 0` + strings.Repeat(" L1 2", 20000) + `"/></g>`
	for k := 1; k < 12; k++ {
		uses += fmt.Sprintf(`<g id="u%d">%s</g>`, k, strings.Repeat(fmt.Sprintf(`<use href="#u%d"/>`, k-1), 6))
	}
	for name, c := range map[string]struct{ text, says string }{
		"uses of uses":     {wrapped(uses), "repetition"},
		"rules":            {wrapped("<style>" + strings.Repeat("*{fill:red;stroke:blue;opacity:1}", 20000) + "</style>" + strings.Repeat("<rect width='1' height='1'/>", 15000)), "style rules"},
		"style comments":   {wrapped("<style>" + strings.Repeat("/* x */", 400000) + "</style>"), ""},
		"title comments":   {wrapped("<title>" + strings.Repeat("a<!-- -->", 200000) + "</title>"), ""},
		"a long text":      {wrapped("<text>" + strings.Repeat("word ", 400000) + "</text>"), "letters beyond"},
		"many colours":     {wrapped(`<linearGradient id="g">` + strings.Repeat(`<stop offset="0.5" stop-color="red"/>`, 5000) + `</linearGradient><rect width="5" height="5" fill="url(#g)"/>`), "reduced to 100"},
		"many selectors":   {wrapped("<style>" + strings.Repeat(".a,", 300000) + ".b{fill:red}</style><g class='" + strings.Repeat("a ", 1000) + "'><rect width='5' height='5'/></g>"), ""},
		"a deep drawing":   {wrapped(strings.Repeat("<g>", 250) + strings.Repeat("</g>", 250)), "refused"},
		"a long path":      {wrapped(`<path d="M0 0` + strings.Repeat("l1 1", 300000) + `"/>`), ""},
		"many attributes":  {wrapped("<g " + attributes(50000) + "><rect width='1' height='1'/></g>"), ""},
		"a long transform": {wrapped("<g transform='" + strings.Repeat("translate(1)", 100000) + "'><rect width='1' height='1'/></g>"), ""},
	} {
		n := 0
		var before, after runtime.MemStats
		runtime.ReadMemStats(&before)
		start := busy()
		d, err := Read([]byte(c.text), func() scene.ID { n++; return scene.ID(fmt.Sprint("x", n)) })
		took := busy() - start
		runtime.ReadMemStats(&after)
		t.Logf("%s: %d KB, %v, %d MB", name, len(c.text)>>10, took.Round(time.Millisecond), (after.TotalAlloc-before.TotalAlloc)>>20)
		if took > 5*time.Second || after.TotalAlloc-before.TotalAlloc > 3<<30 {
			t.Errorf("%s takes %v and %d MB", name, took, (after.TotalAlloc-before.TotalAlloc)>>20)
		}
		switch {
		case c.says == "refused":
			if err == nil {
				t.Errorf("%s is read", name)
			}
		case err != nil:
			t.Errorf("%s: %v", name, err)
		case !strings.Contains(strings.Join(d.Missed, "; "), c.says):
			t.Errorf("%s: nothing is said of %q: %v", name, c.says, d.Missed)
		default:
			for _, item := range d.Items {
				if err := item.Check(); err != nil {
					t.Fatalf("%s: %v", name, err)
				}
			}
		}
	}
}

// busy is how long the processor has worked for these tests, whatever else runs on the machine.
func busy() time.Duration {
	var used syscall.Rusage
	if err := syscall.Getrusage(syscall.RUSAGE_SELF, &used); err != nil {
		panic(err)
	}
	return time.Duration(used.Utime.Nano() + used.Stime.Nano())
}

// attributes is so many of them, each of another name.
func attributes(n int) string {
	var b strings.Builder
	for k := range n {
		fmt.Fprintf(&b, "data-a%d='%d' ", k, k)
	}
	return b.String()
}
