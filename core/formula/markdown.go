package formula

import (
	"fmt"
	"slices"
	"strings"
)

// Markdown writes the reference of the language from its tables.
func Markdown() string {
	var b strings.Builder
	b.WriteString(introduction)
	var groups []string
	for _, f := range Functions {
		if !slices.Contains(groups, f.Group) {
			groups = append(groups, f.Group)
		}
	}
	for _, group := range groups {
		fmt.Fprintf(&b, "\n### %s\n\n| function | what it gives | example |\n| --- | --- | --- |\n", strings.ToUpper(group[:1])+group[1:])
		for _, f := range Functions {
			if f.Group == group {
				fmt.Fprintf(&b, "| `%s` | %s | `%s` |\n", f.Usage, f.Help, f.Example)
			}
		}
	}
	fmt.Fprintf(&b, "\n## Names that exist everywhere\n\n`%s`\n", strings.Join(Names(), "` `"))
	fmt.Fprintf(&b, "\n## Bounds\n\n%d characters, %d levels of nesting, %d operations, those of all that is looked at at other times included; past them an error says so. How much of other times a frame may ask for is told in [links.md](links.md).\n", MaxLength, MaxDepth, MaxOperations)
	return b.String()
}

const introduction = "# Formulas\n\n" +
	"This page is written from the tables of the language (`core/formula`); a test keeps it up to date.\n\n" +
	"```\n" +
	"gust = noise(time * 0.6, index) * {Weather: Gusts}      // a named value\n" +
	"wave(time * 0.3 - share) * {Weather: Wind} * 0.4 + gust // the last line is the result\n" +
	"```\n\n" +
	"A formula has no side effects and gives the same at every visit to a frame.\n\n" +
	"- **Numbers** `12`, `0.5`, `1e3`; with a unit `6f` (frames), `0.5s`, `90deg`, `0.25turn`, `1.2rad`. Angles are degrees, always. Colours `#d9a441`, `#d9a44180`. Points `[x, y]`, `[x, y, z]`. Texts `\"…\"`. `true`, `false`.\n" +
	"- **Operators**, the loosest first: `or` · `and` · `not` · `= ≠ < > <= >=` (also `==`, `!=`; they do not follow each other: `0 < x and x < 50`) · `+ -` · `* /` · unary `-` · `^` · components `.x .y .z .r .g .b .a .hue .saturation .lightness`. Points and colours work component by component; a number goes with every component.\n" +
	"- **References** `{Owner: property}`: an item's name, or `self`, `parent`, and in a roster `prev`, `next`, `first`, `last`, `prev 2` (two back), and `partner`, the member at the same place of the roster that it is paired with. Case does not matter. They are bound to the thing and not to its name: renaming breaks nothing. Where two things have one name, `{Lantern~2: …}` says which; a name that holds `:`, `{`, `}`, `.` or `~` stands in double quotes. `world.position`, `world.rotation`, `world.scale`, `length`, `vertices.count`, `frames.count` and `letters.count` can be read of what has them.\n" +
	"- **own** is the driven property's own value, **below** what the links under this one make of it.\n" +
	"- Where a roster has no such member, the link passes on what is below it, unless `else` says otherwise: `{prev: rotation} else 0`.\n" +
	"- **Time functions** take the expression itself, which is evaluated at the other time with all that is in it. A time has a unit: `index * 3f`, `{Weather: Sway lag}`. A property may depend on itself through a delay of at least a frame; before frame 0 it is what the links below make of it. `accumulate` and `average` are exact over straight lines and over values that jump at whole frames.\n" +
	"- **Rows of rows**: where the members of a roster hang on the members of another one, `index`, `number`, `count` and `share` count within the row; behind `outer` they count the rows: `outer index`. `{outer self: …}` is what the row hangs on, `{outer prev: …}` what the row before hangs on.\n" +
	"- **Vertices**: `{Garland: vertices[4].y}`, counted from 1; the number may be a formula, `{Garland: vertices[index + 1]}` or `{Garland: vertices[{Rig: n}].y}`, held at the first and the last. On a roster of vertices `{prev: vertex}` is the vertex before. `world.vertices[4]` is where it stands in the composition.\n" +
	"- **Lines** `name = expression` name a value; the last line is the result, and `=` compares there. `//` starts a comment. Within brackets an expression may go on over lines.\n" +
	"- **Types**: a number goes onto every component of a point or colour; a point of three onto two loses z, of two onto three leaves z as it is below. A switch is 0 or 1; a number is on from 0.5. A percentage stays one when a plain factor multiplies it.\n" +
	"- What is not finite (a division by zero), and a text of more than 20,000 bytes, passes on what is below it.\n\n" +
	"## Functions\n"
