package scene

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"unicode/utf8"
)

// Table is numbers and words from elsewhere, in columns of as many rows each. A column is a property of its item that can only be
// read: what it is in the row that the item is at.
type Table struct {
	Columns []*Column `json:"columns"`
	// File is what it came from, for people.
	File string `json:"file,omitempty"`
}

// Column is one of a table: numbers or texts, row by row.
type Column struct {
	ID      ID        `json:"id"` // the key of its property
	Name    string    `json:"name"`
	Numbers []float64 `json:"numbers,omitempty" ts:"list"`
	Texts   []string  `json:"texts,omitempty" ts:"list"`
}

// Bounds of tables.
const (
	MaxColumns = 64
	MaxRows    = 20_000
	MaxCells   = 200_000
	MaxCell    = 1000 // characters of a text
	// MaxTableFile is how large a file that is read as a table can be, in bytes.
	MaxTableFile = 16 << 20
)

// Rows returns how many rows a table has; 0 for none.
func (t *Table) Rows() int {
	if t == nil || len(t.Columns) == 0 {
		return 0
	}
	return t.Columns[0].rows()
}

func (c *Column) rows() int {
	if c == nil {
		return 0
	}
	return max(len(c.Numbers), len(c.Texts))
}

// Column returns which column of a table has a key; -1 for none.
func (t *Table) Column(key string) int {
	if t == nil {
		return -1
	}
	return slices.IndexFunc(t.Columns, func(c *Column) bool { return c != nil && string(c.ID) == key })
}

// At returns the number of a column in a row, counted from 1; between two rows, straight from one to the other. It is held at the
// ends, and is no number where the column holds texts.
func (c *Column) At(row float64) float64 {
	n := len(c.Numbers)
	if n == 0 || row != row {
		return math.NaN()
	}
	row = max(1, min(float64(n), row))
	k := int(row)
	x := c.Numbers[k-1]
	if rest := row - float64(k); rest > 0 {
		x += float64((c.Numbers[k] - x) * rest)
	}
	return x
}

// TextAt returns the text of a column in a row, counted from 1: of the one that a row between two is in.
func (c *Column) TextAt(row float64) string {
	n := len(c.Texts)
	if n == 0 || row != row {
		return ""
	}
	return c.Texts[int(max(1, min(float64(n), row)))-1]
}

// Named returns the row, counted from 1, that has a text in the first column of texts; 0 for none. Capitals don't matter.
func (t *Table) Named(text string) int {
	if t == nil {
		return 0
	}
	words := t.Words()
	if words == nil {
		return 0
	}
	return 1 + slices.IndexFunc(words.Texts, func(one string) bool { return strings.EqualFold(one, strings.TrimSpace(text)) })
}

// Words returns the first column of texts, which names the rows; nil where there is none.
func (t *Table) Words() *Column {
	for _, c := range t.Columns {
		if len(c.Texts) > 0 {
			return c
		}
	}
	return nil
}

// TakenColumns returns the names, folded, that no column can have, since a property of every table is called so.
func TakenColumns() map[string]bool {
	taken := map[string]bool{}
	for _, list := range [][]*Spec{byKind[TableItem], readableByKind[TableItem]} {
		for _, spec := range list {
			taken[Fold(spec.Name)] = true
		}
	}
	return taken
}

// Spec returns the property that a column is.
func (c *Column) Spec() *Spec {
	if len(c.Texts) > 0 {
		return &Spec{Key: string(c.ID), Name: c.Name, Group: groupTable, Type: Text, Default: Txt(""), ReadOnly: true, Kinds: tables}
	}
	s := readable(string(c.ID), c.Name, Number, Plain, tables)
	s.Group = groupTable
	return s
}

// Check refuses a table that could not be read.
func (t *Table) Check() error {
	if t == nil {
		return nil
	}
	rows := t.Rows()
	switch {
	case slices.Contains(t.Columns, nil):
		return fmt.Errorf("a column is empty")
	case len(t.Columns) == 0 || rows == 0:
		return fmt.Errorf("a table has at least one column and one row")
	case len(t.Columns) > MaxColumns:
		return fmt.Errorf("the table has %d columns; the limit is %d", len(t.Columns), MaxColumns)
	case rows > MaxRows || rows*len(t.Columns) > MaxCells:
		return fmt.Errorf("the table has %d rows of %d columns; the limit is %d rows, and %d cells", rows, len(t.Columns), MaxRows, MaxCells)
	case utf8.RuneCountInString(t.File) > MaxName:
		return fmt.Errorf("the name of the table's file is longer than %d characters", MaxName)
	}
	names, ids := TakenColumns(), map[ID]bool{}
	for _, c := range t.Columns {
		if err := c.check(rows); err != nil {
			return err
		}
		if names[Fold(c.Name)] || ids[c.ID] {
			return fmt.Errorf("two properties of the table are called %s", c.Name)
		}
		names[Fold(c.Name)], ids[c.ID] = true, true
	}
	return nil
}

func (c *Column) check(rows int) error {
	if err := CheckID(c.ID); err != nil {
		return err
	}
	if err := CheckName(c.Name); err != nil {
		return err
	}
	if _, _, vertex := VertexOf(string(c.ID)); vertex || reserved[string(c.ID)] {
		return fmt.Errorf("%q is the name of a property and can't be the id of a column", c.ID)
	}
	if len(c.Numbers) > 0 && len(c.Texts) > 0 || c.rows() != rows {
		return fmt.Errorf("the column %s does not have a number or a text in every row", c.Name)
	}
	for _, x := range c.Numbers {
		if math.IsNaN(x) || math.IsInf(x, 0) {
			return fmt.Errorf("the column %s holds what is no number", c.Name)
		}
	}
	for _, text := range c.Texts {
		if utf8.RuneCountInString(text) > MaxCell {
			return fmt.Errorf("a text of the column %s is longer than %d characters", c.Name, MaxCell)
		}
	}
	return nil
}

// Clone returns a copy that shares nothing that can be changed.
func (t *Table) Clone() *Table {
	if t == nil {
		return nil
	}
	out := &Table{File: t.File}
	for _, c := range t.Columns {
		kept := *c
		kept.Numbers, kept.Texts = slices.Clone(c.Numbers), slices.Clone(c.Texts)
		out.Columns = append(out.Columns, &kept)
	}
	return out
}

// columnSpec returns the property of a column; nil where the item has no such column.
func (i *Item) columnSpec(key string) *Spec {
	if k := i.Table.Column(key); k >= 0 {
		return i.Table.Columns[k].Spec()
	}
	return nil
}

// ColumnSpecs lists the properties of the columns of an item.
func (i *Item) ColumnSpecs() (out []*Spec) {
	if i.Table != nil {
		for _, c := range i.Table.Columns {
			out = append(out, c.Spec())
		}
	}
	return out
}
