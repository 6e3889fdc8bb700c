package scene

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"unicode"
)

// Bounds on JSON that is read into a document, or a change of one, looked at before anything is made of it: a few
// bytes can stand for something that takes hundreds.
const (
	MaxJSON        = 96 << 20 // bytes
	maxJSONObjects = 2000000
	maxJSONDepth   = 200
)

// CheckJSON refuses JSON that would take too much memory as a document: too long, too many objects, too deep. Whether
// it is valid is not looked at.
func CheckJSON(data []byte) error {
	if len(data) > MaxJSON {
		return fmt.Errorf("it has more than %d MB, which is too much for a project", MaxJSON>>20)
	}
	objects, depth, quoted := 0, 0, false
	for k := 0; k < len(data); k++ {
		switch c := data[k]; {
		case quoted && c == '\\':
			k++
		case c == '"':
			quoted = !quoted
		case quoted:
		case c == '{' || c == '[':
			if c == '{' {
				objects++
			}
			if depth++; depth > maxJSONDepth {
				return fmt.Errorf("it is nested more than %d levels deep, which is too much for a project", maxJSONDepth)
			}
		case c == '}' || c == ']':
			depth--
		case c == 'n' && k > 0 && (data[k-1] == ',' || data[k-1] == '['): // an empty entry of a list
			objects++
		}
	}
	if objects > maxJSONObjects {
		return fmt.Errorf("it has %d entries; a project has at most %d", objects, maxJSONObjects)
	}
	return nil
}

// ReadExactly reads JSON into a value and refuses fields that the value does not have: who sends one means something
// by it, and would not be told that nothing came of it. Nothing at all leaves the value as it is.
func ReadExactly(data []byte, into any) error {
	if len(data) == 0 {
		return nil
	}
	d := json.NewDecoder(bytes.NewReader(data))
	d.DisallowUnknownFields()
	if err := d.Decode(into); err != nil {
		if field, ok := strings.CutPrefix(err.Error(), "json: unknown field "); ok {
			return fmt.Errorf("there is no field named %s here", field)
		}
		if errors.Is(err, io.ErrUnexpectedEOF) {
			return fmt.Errorf("the JSON ends too early: %w", err)
		}
		return PlainJSON(err)
	}
	if _, err := d.Token(); !errors.Is(err, io.EOF) {
		return errors.New("there is more text after the end of the JSON")
	}
	return nil
}

// PlainJSON turns an error of the package that reads JSON into a sentence about what was read.
func PlainJSON(err error) error {
	var wrong *json.UnmarshalTypeError
	var broken *json.SyntaxError
	switch {
	case errors.As(err, &wrong) && wrong.Field != "":
		path := slices.DeleteFunc(strings.Split(wrong.Field, "."), func(part string) bool { return part != "" && unicode.IsUpper(rune(part[0])) }) // names of Go
		return fmt.Errorf("%q is given as a %s, which does not fit", strings.Join(path, "."), wrong.Value)
	case errors.As(err, &wrong):
		return fmt.Errorf("the JSON is a %s, which does not fit here", wrong.Value)
	case errors.As(err, &broken):
		return fmt.Errorf("it is not valid JSON after its first %d bytes", broken.Offset)
	}
	return err
}
