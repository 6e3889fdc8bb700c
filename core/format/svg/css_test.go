package svg

import (
	"strings"
	"testing"
)

// Style sheets as programs write them: conditions are left out and said, what cannot be read costs only itself.
func TestStyleSheets(t *testing.T) {
	d := read(t, svgOf(`<style><![CDATA[
		@import url("other.css");
		@media print { rect { fill: red } }
		/* } */ .a:hover, #x > rect { fill: red }
		[title="}"] { fill: red }
		.a { font-family: "a;b}c"; fill: lime !important; fill; :; stroke: #00F; STROKE-WIDTH: 3 }
		.b{fill:rgb(0, 0, 255)}
	]]></style>
	<rect id="one" class="a" width="20" height="10"/><rect id="two" class="b" style="stroke:red;stroke-width:2;;nonsense" width="20" height="10"/><rect id="three" width="20" height="10"/>`))
	for _, want := range []struct{ id, key, value string }{
		{"one", "fill", "[0, 1, 0, 1]"}, {"one", "stroke", "[0, 0, 1, 1]"}, {"one", "strokeWidth", "3"},
		{"two", "fill", "[0, 0, 1, 1]"}, {"two", "stroke", "[1, 0, 0, 1]"}, {"two", "strokeWidth", "2"}, {"three", "fill", "[0, 0, 0, 1]"}, // what holds for print only doesn't hold here
	} {
		item, _ := find(t, d, want.id)
		if got := item.State(want.key).OwnOr(item.Spec(want.key)).String(); got != want.value {
			t.Errorf("%s of %s is %s, want %s", want.key, want.id, got, want.value)
		}
	}
	all := strings.Join(d.Missed, "\n")
	for _, said := range []string{"“@media”", "“.a:hover”", "“#x>rect”", "“[title=\"}\"]”"} {
		if !strings.Contains(all, said) {
			t.Errorf("%s is missing in:\n%s", said, all)
		}
	}
}
