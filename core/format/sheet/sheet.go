// Package sheet reads tables that others wrote: comma-separated values in the forms that spreadsheets give them, and JSON.
package sheet

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"slices"
	"strconv"
	"strings"
	"unicode/utf16"
	"unicode/utf8"

	"golang.org/x/text/encoding/charmap"

	"wunderkammer/core/scene"
)

// Read reads a file as a table, and says in sentences what of it is other than it was. Columns have ids that tell them apart in the
// table, and no more.
func Read(file []byte, name string) (t *scene.Table, notes []string, err error) {
	if len(file) > scene.MaxTableFile {
		return nil, nil, fmt.Errorf("the file has %d MB; the limit is %d. Cut out the part that you need", len(file)>>20, scene.MaxTableFile>>20)
	}
	text, err := decoded(file)
	if err != nil {
		return nil, nil, err
	}
	var rows [][]string
	if trimmed := strings.TrimSpace(text); strings.HasPrefix(trimmed, "[") || strings.HasPrefix(trimmed, "{") {
		rows, err = fromJSON(trimmed)
	} else {
		rows, err = fromCSV(text)
	}
	if err != nil {
		return nil, nil, err
	}
	return made(rows, name)
}

// decoded is a file as text: UTF-8 or UTF-16 with or without their marks, or else Windows-1252, which takes anything.
func decoded(file []byte) (string, error) {
	switch {
	case bytes.HasPrefix(file, []byte{0xEF, 0xBB, 0xBF}):
		file = file[3:]
	case bytes.HasPrefix(file, []byte{0xFF, 0xFE}):
		return wide(file[2:], 0), nil
	case bytes.HasPrefix(file, []byte{0xFE, 0xFF}):
		return wide(file[2:], 1), nil
	}
	if bytes.IndexByte(file, 0) >= 0 {
		return "", errors.New("it is not a table of text; export it as CSV or JSON")
	}
	if utf8.Valid(file) {
		return string(file), nil
	}
	text, err := charmap.Windows1252.NewDecoder().Bytes(file)
	return string(text), err
}

// wide is UTF-16; low says which byte of a unit has its lower half.
func wide(file []byte, low int) string {
	units := make([]uint16, len(file)/2)
	for k := range units {
		a, b := uint16(file[2*k]), uint16(file[2*k+1])
		if low == 0 {
			a, b = b, a
		}
		units[k] = a<<8 | b
	}
	return string(utf16.Decode(units))
}

// fromCSV reads rows of cells. What parts them is whatever parts the first lines most evenly: a semicolon, a tab, a comma or a bar.
func fromCSV(text string) ([][]string, error) {
	r := csv.NewReader(strings.NewReader(text))
	r.Comma, r.LazyQuotes, r.FieldsPerRecord, r.TrimLeadingSpace = parting(text), true, -1, true
	var rows [][]string
	for {
		row, err := r.Read()
		if err == io.EOF {
			return rows, nil
		}
		if err != nil {
			return nil, fmt.Errorf("it can't be read as CSV: %w", err)
		}
		if slices.ContainsFunc(row, func(cell string) bool { return strings.TrimSpace(cell) != "" }) {
			rows = append(rows, row)
		}
		if len(rows) > scene.MaxRows+1 {
			return nil, tooLong()
		}
	}
}

func tooLong() error {
	return fmt.Errorf("it has more than %d rows; cut out those that you need", scene.MaxRows)
}

// parting is what parts the cells of a text.
func parting(text string) rune {
	lines := strings.SplitN(text, "\n", 6)
	best, most := ',', 0
	for _, mark := range []rune{';', '\t', ',', '|'} {
		least := -1
		for k, line := range lines {
			if k == 5 || strings.TrimSpace(line) == "" {
				break
			}
			if n := outside(line, mark); least < 0 || n < least {
				least = n
			}
		}
		if least > most {
			best, most = mark, least
		}
	}
	return best
}

// outside counts a mark in a line where it does not stand between quotes.
func outside(line string, mark rune) (n int) {
	quoted := false
	for _, c := range line {
		switch {
		case c == '"':
			quoted = !quoted
		case c == mark && !quoted:
			n++
		}
	}
	return n
}

// fromJSON reads a list of objects, a list of lists, or an object of lists.
func fromJSON(text string) ([][]string, error) {
	var list []json.RawMessage
	if strings.HasPrefix(text, "{") {
		return fromColumns(text)
	}
	if err := json.Unmarshal([]byte(text), &list); err != nil {
		return nil, fmt.Errorf("it is not valid JSON: %w", err)
	}
	if len(list) > scene.MaxRows {
		return nil, tooLong()
	}
	if len(list) > 0 && bytes.HasPrefix(bytes.TrimSpace(list[0]), []byte("[")) {
		rows := make([][]string, len(list))
		for k, one := range list {
			var cells []any
			if err := json.Unmarshal(one, &cells); err != nil {
				return nil, errors.New("its rows are of different kinds; make all of them lists, or all of them objects")
			}
			for _, cell := range cells {
				rows[k] = append(rows[k], shown(cell))
			}
		}
		return rows, nil
	}
	var names []string
	at := map[string]int{}
	rows := [][]string{nil}
	for _, one := range list {
		var cells map[string]any
		if err := json.Unmarshal(one, &cells); err != nil || cells == nil {
			return nil, errors.New("it is no table: a list of objects with the same names, a list of lists, or an object of lists is one")
		}
		for _, name := range inOrder(one) {
			if _, known := at[name]; !known {
				if len(names) == scene.MaxColumns {
					return nil, fmt.Errorf("it has more than %d columns; cut out those that you need", scene.MaxColumns)
				}
				at[name] = len(names)
				names = append(names, name)
			}
		}
		row := make([]string, len(names))
		for name, cell := range cells {
			row[at[name]] = shown(cell)
		}
		rows = append(rows, row)
	}
	rows[0] = names
	return rows, nil
}

// inOrder lists the names of an object as they are written.
func inOrder(object json.RawMessage) (names []string) {
	d := json.NewDecoder(bytes.NewReader(object))
	d.Token() // {
	for d.More() {
		name, err := d.Token()
		if err != nil {
			return names
		}
		text, _ := name.(string)
		names = append(names, text)
		var skipped json.RawMessage
		if d.Decode(&skipped) != nil {
			return names
		}
	}
	return names
}

// fromColumns reads an object of lists.
func fromColumns(text string) ([][]string, error) {
	var columns map[string][]any
	if err := json.Unmarshal([]byte(text), &columns); err != nil {
		return nil, errors.New("it is no table: a list of objects with the same names, a list of lists, or an object of lists is one")
	}
	names := inOrder(json.RawMessage(text))
	rows := [][]string{names}
	for k, name := range names {
		if len(columns[name]) > scene.MaxRows {
			return nil, tooLong()
		}
		for n, cell := range columns[name] {
			for len(rows) <= n+1 {
				rows = append(rows, make([]string, len(names)))
			}
			rows[n+1][k] = shown(cell)
		}
	}
	return rows, nil
}

// shown is a value of JSON as a cell.
func shown(cell any) string {
	switch x := cell.(type) {
	case nil:
		return ""
	case string:
		return x
	case bool:
		if x {
			return "1"
		}
		return "0"
	case float64:
		return strconv.FormatFloat(x, 'g', -1, 64)
	}
	data, _ := json.Marshal(cell) // a list or an object, as it is
	return string(data)
}

// made makes a table of rows of cells, of which the first has the names where it has no numbers and others have.
func made(rows [][]string, file string) (*scene.Table, []string, error) {
	if len(rows) == 0 {
		return nil, nil, errors.New("the file is empty")
	}
	width := 0
	for _, row := range rows {
		width = max(width, len(row))
	}
	if width > scene.MaxColumns {
		return nil, nil, fmt.Errorf("it has %d columns; the limit is %d. Cut out those that you need", width, scene.MaxColumns)
	}
	if (len(rows)-1)*width > scene.MaxCells {
		return nil, nil, fmt.Errorf("it has %d cells; the limit is %d. Cut out those that you need", (len(rows)-1)*width, scene.MaxCells)
	}
	cell := func(row []string, k int) string {
		if k < len(row) {
			return strings.TrimSpace(row[k])
		}
		return ""
	}
	comma := decimalComma(rows)
	var names []string
	if body := rows[1:]; len(body) > 0 && headed(rows[0], comma) {
		names, rows = rows[0], body
	}
	t := &scene.Table{File: clipped(file, scene.MaxName)}
	var notes []string
	taken := scene.TakenColumns()
	for k := range width {
		column := &scene.Column{ID: scene.ID(fmt.Sprintf("column%d", k+1)), Name: free(cell(names, k), k, taken)}
		texts := make([]string, len(rows))
		empty := true
		for n, row := range rows {
			texts[n] = cell(row, k)
			empty = empty && texts[n] == ""
		}
		if empty {
			continue
		}
		numbers, gaps, ok := numbersOf(texts, comma)
		if ok {
			column.Numbers = numbers
			if gaps > 0 {
				notes = append(notes, fmt.Sprintf("%s: %d empty cells were filled in from those around them.", column.Name, gaps))
			}
		} else {
			for n := range texts {
				texts[n] = clipped(texts[n], scene.MaxCell)
			}
			column.Texts = texts
		}
		t.Columns = append(t.Columns, column)
	}
	if len(t.Columns) == 0 {
		return nil, nil, errors.New("the file is empty")
	}
	return t, notes, t.Check()
}

// headed reports whether a row has the names of columns: words, and no numbers.
func headed(row []string, comma bool) bool {
	words := false
	for _, cell := range row {
		if cell = strings.TrimSpace(cell); cell == "" {
			continue
		}
		if _, ok := number(cell, comma); ok {
			return false
		}
		words = true
	}
	return words
}

// free is a name for a column that no other has.
func free(name string, k int, taken map[string]bool) string {
	name = clipped(strings.Join(strings.Fields(name), " "), scene.MaxName-4)
	if name == "" {
		name = fmt.Sprintf("column %d", k+1)
	}
	out := name
	for n := 2; taken[scene.Fold(out)] || scene.CheckName(out) != nil; n++ {
		if n > 9999 {
			return fmt.Sprintf("column %d", k+1)
		}
		if scene.CheckName(name) != nil {
			name = fmt.Sprintf("column %d", k+1)
		}
		out = fmt.Sprintf("%s %d", name, n)
	}
	taken[scene.Fold(out)] = true
	return out
}

func clipped(text string, most int) string {
	if utf8.RuneCountInString(text) <= most {
		return text
	}
	return string([]rune(text)[:most])
}

// decimalComma reports whether numbers are written with a comma before their decimals: some are, and none has a point there.
func decimalComma(rows [][]string) bool {
	commas := 0
	for _, row := range rows {
		for _, cell := range row {
			cell = strings.TrimSpace(cell)
			_, plain := number(cell, false)
			if plain && strings.Contains(cell, ".") {
				return false
			}
			if _, ok := number(cell, true); ok && !plain {
				commas++
			}
		}
	}
	return commas > 0
}

// number reads a number: with a decimal point and commas between thousands, or the other way round; spaces and apostrophes part
// thousands, too. A percent sign behind it is no part of it.
func number(cell string, comma bool) (float64, bool) {
	cell = strings.TrimSpace(strings.TrimSuffix(cell, "%"))
	point, parts := ".", ","
	if comma {
		point, parts = ",", "."
	}
	whole, rest, _ := strings.Cut(cell, point)
	for _, mark := range []string{parts, " ", "\u00a0", "\u202f", "'", "’"} {
		if !strings.Contains(whole, mark) {
			continue
		}
		groups := strings.Split(whole, mark)
		for _, group := range groups[1:] {
			if len(group) != 3 {
				return 0, false
			}
		}
		whole = strings.Join(groups, "")
	}
	text := strings.Replace(whole, "−", "-", 1)
	if strings.Contains(cell, point) {
		text += "." + rest
	}
	if text == "" || strings.ContainsAny(text, "xXpPnNiI_") {
		return 0, false
	}
	x, err := strconv.ParseFloat(text, 64)
	return x, err == nil && !math.IsInf(x, 0)
}

// numbersOf reads cells as numbers. Empty ones are filled in straight between those around them.
func numbersOf(cells []string, comma bool) (out []float64, gaps int, ok bool) {
	out = make([]float64, len(cells))
	last := -1
	for k, cell := range cells {
		if cell == "" || cell == "-" || strings.EqualFold(cell, "n/a") || strings.EqualFold(cell, "na") || strings.EqualFold(cell, "null") {
			gaps++
			continue
		}
		x, ok := number(cell, comma)
		if !ok {
			return nil, 0, false
		}
		out[k] = x
		for n := last + 1; n < k; n++ {
			if last < 0 {
				out[n] = x
			} else {
				out[n] = out[last] + float64((x-out[last])*float64(n-last)/float64(k-last))
			}
		}
		last = k
	}
	if last < 0 {
		return nil, 0, false
	}
	for n := last + 1; n < len(out); n++ {
		out[n] = out[last]
	}
	return out, gaps, true
}
