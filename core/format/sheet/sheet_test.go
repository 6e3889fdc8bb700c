package sheet

import (
	"fmt"
	"strings"
	"testing"
	"unicode/utf16"

	"wunderkammer/core/scene"
)

// told is a table as a line: its columns with what is in them.
func told(t *scene.Table) string {
	var b strings.Builder
	for _, c := range t.Columns {
		fmt.Fprintf(&b, "%s:", c.Name)
		for _, x := range c.Numbers {
			fmt.Fprintf(&b, " %v", x)
		}
		for _, text := range c.Texts {
			fmt.Fprintf(&b, " %q", text)
		}
		b.WriteString("; ")
	}
	return strings.TrimSuffix(b.String(), "; ")
}

func wideOf(text string, big bool) string {
	out := []byte{0xFF, 0xFE}
	if big {
		out = []byte{0xFE, 0xFF}
	}
	for _, u := range utf16.Encode([]rune(text)) {
		if big {
			out = append(out, byte(u>>8), byte(u))
		} else {
			out = append(out, byte(u), byte(u>>8))
		}
	}
	return string(out)
}

func TestTablesInAllTheirForms(t *testing.T) {
	const want = `month: "Jan" "März"; tonnes: 3.7 -12.25`
	for name, file := range map[string]string{
		"commas":            "month,tonnes\nJan,3.7\nMärz,-12.25\n",
		"semicolons":        "month;tonnes\r\nJan;3,7\r\nMärz;-12,25\r\n",
		"tabs and a mark":   "\xEF\xBB\xBFmonth\ttonnes\nJan\t3.7\nMärz\t-12.25",
		"UTF-16":            wideOf("month;tonnes\nJan;3,7\nMärz;-12,25", false),
		"UTF-16, big":       wideOf("month;tonnes\nJan;3,7\nMärz;−12,25", true),
		"Windows-1252":      "month;tonnes\nJan;3,7\nM\xE4rz;-12,25",
		"quotes":            "\"month\",\"tonnes\"\n\"Jan\",\"3.7\"\n\n\"März\",\"-12.25\"\n",
		"objects":           `[{"month": "Jan", "tonnes": 3.7}, {"tonnes": -12.25, "month": "März"}]`,
		"lists":             `[["month", "tonnes"], ["Jan", 3.7], ["März", -12.25]]`,
		"an object of them": `{"month": ["Jan", "März"], "tonnes": [3.7, -12.25]}`,
	} {
		got, notes, err := Read([]byte(file), "harvest.csv")
		if err != nil || told(got) != want || len(notes) > 0 || got.File != "harvest.csv" {
			t.Errorf("%s: %v, %v, %v", name, got, notes, err)
		}
	}
}

func TestWhatIsInATable(t *testing.T) {
	for name, one := range map[string]struct{ file, want string }{
		"no names":               {"3,4\n5,6\n7,9", "column 1: 3 5 7; column 2: 4 6 9"},
		"names alike":            {"a,a,row,\n1,2,3,4\n5,6,7,8", "a: 1 5; a 2: 2 6; row 2: 3 7; column 4: 4 8"},
		"thousands":              {"n\n\"1,234,567.5\"\n\"2,000\"", "n: 1.2345675e+06 2000"},
		"thousands, with points": {"n;m\n1.234,5;7\n2.000,25;8", "n: 1234.5 2000.25; m: 7 8"},
		"spaces and apostrophes": {"n;m\n1 234;1'000\n2;3", "n: 1234 2; m: 1000 3"},
		"percent":                {"share\n12 %\n7.5%", "share: 12 7.5"},
		"gaps":                   {"a,b\n1,\n,6\n4,\n", "a: 1 2.5 4; b: 6 6 6"},
		"words among numbers":    {"a\n1\nmany", `a: "1" "many"`},
		"dates":                  {"day,n\n2026-01-03,4\n2026-01-04,5", `day: "2026-01-03" "2026-01-04"; n: 4 5`},
		"short rows":             {"a,b\n1,2\n3", "a: 1 3; b: 2 2"},
		"a quote in a word":      {"a,b\n5\" pipe,2\n3\" pipe,4", `a: "5\" pipe" "3\" pipe"; b: 2 4`},
		"no number":              {"a\nNaN\nInf\n0x10", `a: "NaN" "Inf" "0x10"`},
		"an empty column":        {"a,,b\n1,,2\n3,,4", "a: 1 3; b: 2 4"},
		"values of JSON":         {`[{"a": true, "b": null, "c": [1]}, {"a": false, "b": 3, "c": 2}]`, `a: 1 0; b: 3 3; c: "[1]" "2"`},
	} {
		got, _, err := Read([]byte(one.file), "")
		if err != nil || told(got) != one.want {
			t.Errorf("%s: %v, want %s", name, err, one.want)
			if got != nil {
				t.Error(told(got))
			}
		}
	}
	_, notes, _ := Read([]byte("a,b\n1,\n,6\n4,\n"), "")
	if len(notes) != 2 || notes[0] != "a: 1 empty cells were filled in from those around them." {
		t.Errorf("%v", notes)
	}
}

func TestWhatIsNoTableIsSaid(t *testing.T) {
	long := strings.Repeat("1\n", scene.MaxRows+5)
	for says, file := range map[string]string{
		"the file is empty":         " \n\n",
		"more than 20000 rows":      long,
		"not a table of text":       "PK\x03\x04\x00\x00",
		"not valid JSON":            `[{"a": 1}`,
		"it is no table":            `{"a": {"b": 1}}`,
		"it has 70 columns":         strings.Repeat("1,", 69) + "1\n",
		"more than 64 columns":      `[{` + many(70) + `}]`,
		"rows are of diff":          `[[1], {"a": 2}]`,
		"a list of objects with":    `[1, 2]`,
		"it has 300000 cells":       strings.Repeat(strings.Repeat("1,", 59)+"1\n", 5001),
		"the limit is 16. Cut out":  strings.Repeat("x", scene.MaxTableFile+1),
		"it is not valid JSON: une": `[`,
	} {
		if got, _, err := Read([]byte(file), ""); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q: %v, %v", says, got, err)
		}
	}
}

func many(n int) string {
	var names []string
	for k := range n {
		names = append(names, fmt.Sprintf(`"a%d":1`, k))
	}
	return strings.Join(names, ",")
}

func FuzzWhateverIsReadIsATable(f *testing.F) {
	for _, seed := range []string{"a,b\n1,2\n", "a;b\n1,5;\"x\"\n", `[{"a":1}]`, `{"a":[1,2]}`, "\xFF\xFEa\x00", "a\n\"", "1e309\n-\n", "\"a\"\"b\",\r\n"} {
		f.Add([]byte(seed))
	}
	f.Fuzz(func(t *testing.T, file []byte) {
		table, _, err := Read(file, "x")
		if err == nil && (table.Check() != nil || table.Rows() == 0) {
			t.Errorf("%q is read as %+v", file, table)
		}
	})
}
