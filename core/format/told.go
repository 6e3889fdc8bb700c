package format

import (
	"fmt"
	"slices"
	"strings"
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
	return b.String()
}

const introduction = "# Formats\n\n" +
	"This page is generated from the table of formats (`core/format`); a test keeps it up to date.\n\n" +
	"*Export* in the top bar writes the composition that is open as a file: all frames, the range, or from one frame to another, at any size. " +
	"What is drawn is what the viewport shows, drawn apart from it with smooth edges; marks, controls and what is excluded from output are never in it. " +
	"Every frame is worked out exactly, as if one had jumped to it. It goes on while you work: the project is exported as it was when it began.\n\n" +
	"On the command line: `wunderkammer export project.wunderkammer#Harbour -o harbour.mp4 --from 0 --to 299`. What has to be drawn is drawn by an " +
	"installed Chromium, which `--chromium` names where it isn't found.\n\n" +
	"What a format can't hold is listed in the dialog before anything is written, item by item.\n\n" +
	"Pictures can be written at another rate than the composition's: the moments between frames are as exact as the frames.\n\n" +
	"*Motion blur* makes a frame the average, in linear light, of so many exact pictures spread over the time that a shutter stands open for it: 360° is a " +
	"whole frame, with the frame in the middle.\n\n" +
	"Sounds go along, mixed as the studio plays them: each with its volume, those that are hidden or excluded from output not at all.\n\n" +
	"Moving pictures are encoded by the browser (WebCodecs), which wants a secure page: https, or localhost. Where it can't encode a format or a size, " +
	"that is said, and numbered PNG goes anyhow.\n"
