package items

import (
	"fmt"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// ReplaceTable gives a table the columns of a newer file. Columns are matched by their names, so that what reads them goes on with
// the new ones; a column that is read and is not in the file stays as it is, and is told.
type ReplaceTable struct {
	Item  scene.ID     `json:"item"`
	Table *scene.Table `json:"table"`
}

// Do returns the operation, and says what is missing.
func (g *ReplaceTable) Do(c *gesture.Context) (gesture.Result, error) {
	item := c.Composition.Item(g.Item)
	if item == nil || item.Kind != scene.TableItem {
		return gesture.Result{}, fmt.Errorf("only a table can be replaced by a file of rows; select one")
	}
	if g.Table == nil {
		return gesture.Result{}, fmt.Errorf("there is no table in the file")
	}
	if err := g.Table.Check(); err != nil {
		return gesture.Result{}, err
	}
	fresh := g.Table.Clone()
	was := map[string]*scene.Column{}
	if item.Table != nil {
		for _, column := range item.Table.Columns {
			was[scene.Fold(column.Name)] = column
		}
	}
	for _, column := range fresh.Columns {
		column.ID = c.NewID()
		if old := was[scene.Fold(column.Name)]; old != nil {
			column.ID = old.ID
			delete(was, scene.Fold(column.Name))
		}
	}
	missing := g.missing(c, item, was)
	for _, column := range missing {
		fresh.Columns = append(fresh.Columns, kept(column, fresh.Rows()))
	}
	r := gesture.Result{Ops: change.Ops{&change.ItemTable{On: c.On(item.ID), Table: fresh}}}
	if len(missing) > 0 {
		var names []string
		for _, column := range missing {
			names = append(names, column.Name)
		}
		r.Note = fmt.Sprintf("The file has no column %s: what reads it goes on with what it was", strings.Join(names, ", "))
	}
	return r, nil
}

// missing lists the columns of those that are not in the file which links read, in the order of the table.
func (g *ReplaceTable) missing(c *gesture.Context, item *scene.Item, left map[string]*scene.Column) (out []*scene.Column) {
	if item.Table == nil {
		return nil
	}
	read := map[string]bool{}
	link.Reads(c.Composition, func(source, _ scene.Ref, _ *scene.Link) {
		if source.Item == item.ID {
			read[source.Property] = true
		}
	})
	for _, column := range item.Table.Columns {
		if left[scene.Fold(column.Name)] == column && read[string(column.ID)] {
			out = append(out, column)
		}
	}
	return out
}

// named is a table whose columns have ids of their own.
func named(c *gesture.Context, t *scene.Table) *scene.Table {
	if t.Check() != nil { // which the operation says
		return t
	}
	out := t.Clone()
	if out != nil {
		for _, column := range out.Columns {
			column.ID = c.NewID()
		}
	}
	return out
}

// kept is a column with another number of rows: what is beyond its end is as its last row.
func kept(c *scene.Column, rows int) *scene.Column {
	out := &scene.Column{ID: c.ID, Name: c.Name}
	for k := range rows {
		if len(c.Texts) > 0 {
			out.Texts = append(out.Texts, c.TextAt(float64(k+1)))
		} else {
			out.Numbers = append(out.Numbers, c.At(float64(k+1)))
		}
	}
	return out
}
