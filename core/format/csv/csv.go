// Package csv writes values of properties over time as comma-separated values (RFC 4180): a row for
// each frame, a column for each component.
package csv

import (
	"encoding/csv"
	"fmt"
	"io"

	"wunderkammer/core/engine"
	"wunderkammer/core/scene"
)

// Write writes what properties are at every whole frame of a range.
func Write(to io.Writer, c *scene.Composition, plan *engine.Plan, refs []scene.Ref, from, last int) error {
	w := csv.NewWriter(to)
	head := []string{"frame"}
	sizes := make([]int, len(refs))
	for i, ref := range refs {
		item := c.Item(ref.Item)
		if i := plan.Layout.Index(ref.Item); item == nil && i >= 0 { // a copy
			item = plan.Layout.Items[i]
		}
		if item == nil || item.Spec(ref.Property) == nil {
			return fmt.Errorf("a property of the table is no longer there; it may have been removed in another window")
		}
		spec := item.Spec(ref.Property)
		if spec.Type == scene.Text {
			return fmt.Errorf("%s is a text; only numbers go into the table", c.NameOf(ref))
		}
		parts := spec.Type.Components()
		if ref.Component != "" || parts == nil {
			parts = []string{ref.Component}
		}
		sizes[i] = len(parts)
		for _, part := range parts {
			head = append(head, c.NameOf(scene.Ref{Item: ref.Item, Property: ref.Property, Component: part}))
		}
	}
	if err := w.Write(head); err != nil {
		return err
	}
	series := plan.Series(refs, float64(from), float64(last), last-from+1)
	for frame := from; frame <= last; frame++ {
		row := []string{scene.Exact(float64(frame))}
		for i, size := range sizes {
			for k := range size {
				row = append(row, scene.Exact(series[i][(frame-from)*size+k]+0))
			}
		}
		if err := w.Write(row); err != nil {
			return err
		}
	}
	w.Flush()
	return w.Error()
}
