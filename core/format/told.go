package format

import (
	"fmt"
	"slices"
	"strings"

	"wunderkammer/core/scene"
)

// Markdown writes the page about formats from their table.
func Markdown() string {
	var b strings.Builder
	b.WriteString(introduction)
	var groups []string
	for _, f := range Formats {
		if !slices.Contains(groups, f.Group) {
			groups = append(groups, f.Group)
		}
	}
	yes := map[bool]string{true: "yes", false: "no"}
	for _, group := range groups {
		fmt.Fprintf(&b, "\n## %s\n\n| format | file | transparent | sound | sizes | what it is good for |\n| --- | --- | --- | --- | --- | --- |\n", group)
		for _, f := range Formats {
			if f.Group != group {
				continue
			}
			sizes := "any"
			switch {
			case f.Even:
				sizes = "even"
			case f.Table:
				sizes = "none"
			}
			fmt.Fprintf(&b, "| %s | `.%s` | %s | %s | %s | %s |\n", f.Name, f.Extension, yes[f.Clear], yes[f.Sound], sizes, f.About)
		}
	}
	b.WriteString("\n" + holding)
	b.WriteString("\n| |")
	for _, f := range Formats {
		if f.Drawn || f.Table {
			continue
		}
		fmt.Fprintf(&b, " %s |", f.Name)
	}
	b.WriteString("\n| --- |" + strings.Repeat(" --- |", strings.Count(b.String()[strings.LastIndex(b.String(), "\n|"):], "|")-2) + "\n")
	for _, row := range held {
		fmt.Fprintf(&b, "| %s |", row.name)
		for _, f := range Formats {
			if !f.Drawn && !f.Table {
				fmt.Fprintf(&b, " %s |", f.how(row.class))
			}
		}
		b.WriteString("\n")
	}
	b.WriteString("\n" + besides)
	return b.String()
}

// held are what compositions consist of, as the page lists it.
var held = []struct {
	name  string
	class scene.Class
}{
	{"shapes and texts, with copies of them", scene.Outlined}, {"pictures and flipbooks", scene.Pictured}, {"objects", scene.Solid},
	{"lights", scene.Light}, {"cameras", scene.Lens}, {"particles", scene.Sparks}, {"sounds", scene.Heard},
}

// how says what becomes of items of a class in a format that is not drawn.
func (f *Format) how(class scene.Class) string {
	out := "as they are"
	if f.Thinned {
		out = "keys"
	}
	if what := f.left[class]; what != "" {
		_, out, _ = strings.Cut(what, ": ")
	}
	if fixed := f.fixed[class]; len(fixed) > 0 {
		var names []string
		for _, kind := range scene.Kinds {
			if kind.Class != class {
				continue
			}
			item := &scene.Item{Kind: kind.Kind}
			for _, key := range fixed {
				if spec := item.Spec(key); spec != nil && !slices.Contains(names, spec.Name) {
					names = append(names, spec.Name)
				}
			}
		}
		out += "; as at the first frame: " + strings.Join(names, ", ")
	}
	return out
}

const holding = "## What formats hold that are not drawn\n\n" +
	"What moves becomes keys: as few as the tolerance allows, with easing in between where the format has it. Whatever drives it, links, formulas, " +
	"graphs, poses, pins, is in them.\n"

const besides = "Light that falls on shapes, and the tint of pictures, are left out of SVG and Lottie. Pictures lie in the files as they are; in Lottie those that are cut from a larger one are left out, and each shows in the proportions that it has at first. In Lottie an " +
	"elliptical gradient becomes a round one, and outlines whose pieces change jump from one key to the next. In glTF 100 px are a metre; vertices that are driven " +
	"become shapes that the surface is blended to; light from everywhere is left out; point lights and spots fade with the square of the distance there, and are as " +
	"bright as here half their range away.\n\n" +
	"CSV holds the values of all that has links or pins, or of what of that is selected: a row for each frame, a column for each component, numbers in full.\n\n" +
	"The [player](player.md) holds everything but sounds.\n"

const introduction = "# Formats\n\n" +
	"This page is generated from the table of formats (`core/format`); a test keeps it up to date.\n\n" +
	"*Export* in the top bar writes the composition that is open as a file: all frames, the range, or from one frame to another, at any size. " +
	"What is drawn is what the viewport shows, drawn apart from it with smooth edges; marks, controls and what is excluded from output are never in it. " +
	"Every frame is worked out exactly, as if one had jumped to it. It goes on while you work: the project is exported as it was when it began.\n\n" +
	"On the command line: `wunderkammer export project.wunderkammer#Harbour -o harbour.mp4 --from 0 --to 299`. What has to be drawn is drawn by an " +
	"installed Chromium, which `--chromium` names where it isn't found.\n\n" +
	"What a format can't hold is listed in the dialog before anything is written, item by item; so are formulas that have no result at some frame, where the value below them is exported.\n\n" +
	"Pictures can be written at another rate than the composition's: the moments between frames are as exact as the frames.\n\n" +
	"*Motion blur* makes a frame the average, in linear light, of so many exact pictures spread over the time that a shutter stands open for it: 360° is a " +
	"whole frame, with the frame in the middle.\n\n" +
	"Sounds go along, mixed as the studio plays them: each with its volume, those that are hidden or excluded from output not at all.\n\n" +
	"Moving pictures are encoded by the browser (WebCodecs), which wants a secure page: https, or localhost. Where it can't encode a format or a size, " +
	"that is said, and numbered PNG goes anyhow.\n"
