// Package reference writes docs/formula.md from the tables of the language.
package reference

import (
	"fmt"
	"slices"
	"strings"

	"wunderkammer/core/formula"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/machine"
)

// Markdown writes the reference of the language from its tables.
func Markdown() string {
	var b strings.Builder
	b.WriteString(introduction)
	var groups []string
	for _, f := range formula.Functions {
		if !slices.Contains(groups, f.Group) {
			groups = append(groups, f.Group)
		}
	}
	for _, group := range groups {
		fmt.Fprintf(&b, "\n### %s\n\n| function | what it gives | example |\n| --- | --- | --- |\n", strings.ToUpper(group[:1])+group[1:])
		for _, f := range formula.Functions {
			if f.Group == group {
				fmt.Fprintf(&b, "| `%s` | %s | `%s` |\n", f.Usage, f.Help, f.Example)
			}
		}
	}
	fmt.Fprintf(&b, "\n## Names that exist everywhere\n\n`%s`\n", strings.Join(formula.Names(), "` `"))
	fmt.Fprintf(&b, "\n## Limits\n\n%d characters, %d levels of nesting, %d operations, including everything read at other times; beyond them an error says so. [links.md](links.md) tells how much of other times a frame can read.\n", syntax.MaxLength, syntax.MaxDepth, machine.MaxOperations)
	return b.String()
}

const introduction = "# Formulas\n\n" +
	"This page is generated from the tables of the language (`core/formula`); a test keeps it up to date.\n\n" +
	"```\n" +
	"gust = noise(time * 0.6, index) * {Weather: Gusts}      // a named value\n" +
	"wave(time * 0.3 - share) * {Weather: Wind} * 0.4 + gust // the last line is the result\n" +
	"```\n\n" +
	"A formula has no side effects and gives the same at every visit to a frame.\n\n" +
	"- **Numbers** `12`, `0.5`, `1e3`; with a unit `6f` (frames), `0.5s`, `90deg`, `0.25turn`, `1.2rad`. Angles are degrees, always. Colours `#d9a441`, `#d9a44180`. Points `[x, y]`, `[x, y, z]`. Texts `\"…\"`. `true`, `false`.\n" +
	"- **Operators**, lowest precedence first: `or` · `and` · `not` · `= ≠ < > <= >=` (also `==`, `!=`; they can't be chained: write `0 < x and x < 50`) · `+ -` · `* /` · unary `-` · `^` · components `.x .y .z .r .g .b .a .hue .saturation .lightness`. Points and colours work component by component; a number applies to every component.\n" +
	"- **References** `{Owner: property}`: an item's name, or `self`, `parent`, and in a row `prev`, `next`, `first`, `last`, `prev 2` (two back), and `partner`, the member at the same place in the row that it is paired with. Case does not matter. References follow renames. Where two things share a name, `{Lantern~2: …}` says which; a name that holds `:`, `{`, `}`, `.`, `*` or `~` stands in double quotes. `world.position`, `world.rotation`, `world.scale`, `length`, `vertices.count`, `frames.count` and `letters.count` can be read where they exist.\n" +
	"- **own** is the driven property's own value, **below** the result of the links under this one.\n" +
	"- If a row has no such member, the value below is used, unless `else` gives another: `{prev: rotation} else 0`.\n" +
	"- **Time functions** take the expression itself, which is evaluated at the other time, with everything in it. A time has a unit: `index * 3f`, `{Weather: Sway lag}`. A property may depend on itself through a delay of at least a frame; before frame 0 it is the value below. `accumulate` and `average` are exact over straight lines and over values that jump at whole frames.\n" +
	"- **Rows of rows**: if the members of a row are children of the members of another one, `index`, `number`, `count` and `share` count within the row; after `outer` they count the rows: `outer index`. `{outer self: …}` is the parent of the row, `{outer prev: …}` the parent of the row before.\n" +
	"- **Lists**: an owner that stands for many gathers their values: `{Lamp *: opacity}` (items by name, `*` for any text), `{Lamps > *: fill}` (what is attached to Lamps), `{Lamps >> *: fill}` (everything below it), `{sway of the garland: rotation}` (the members of a row, by its name). Arithmetic and functions work member by member: `{Lamp *: opacity} * {Lamp *: Reach}`; lists that are combined have the same members. `sum`, `mean`, `least`, `greatest`, `count`, `first`, `last`, `nth`, `nearest` and `weighted` make one value of them. An item that is added, renamed or attached later joins at once. A property of the catalogue is the same for all; a control is found by its name on each item, so give the controls of a set one name. Lists are in the order of the row; by name and attachment, in the order in which the items were made.\n" +
	"- **Vertices**: `{Garland: vertices[4].y}`, counted from 1; the number may be a formula, `{Garland: vertices[index + 1]}` or `{Garland: vertices[{Rig: n}].y}`, clamped to the first and last. On a row of vertices `{prev: vertex}` is the vertex before. `world.vertices[4]` is its place in the composition.\n" +
	"- **Lines** `name = expression` name a value; the last line is the result, and `=` compares there. `//` starts a comment. Inside brackets an expression can continue on the next line.\n" +
	"- **Types**: a number fills every component of a point or colour; a 3D point loses z on a 2D property, and a 2D point leaves z of a 3D property as it is, as it does when it is added to a 3D point or multiplies one. A switch is 0 or 1; a number is on from 0.5. A percentage multiplied by a plain factor stays a percentage.\n" +
	"- If the result is not a finite number (a division by zero) or is a text of more than 20,000 bytes, the value below is used.\n\n" +
	"## Functions\n"
