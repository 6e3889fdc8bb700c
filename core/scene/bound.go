package scene

import "fmt"

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
		return fmt.Errorf("there are more than %d MB of it, which is more than a project may have", MaxJSON>>20)
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
				return fmt.Errorf("it is nested more than %d levels deep, which no project is", maxJSONDepth)
			}
		case c == '}' || c == ']':
			depth--
		case c == 'n' && k > 0 && (data[k-1] == ',' || data[k-1] == '['): // an empty entry of a list
			objects++
		}
	}
	if objects > maxJSONObjects {
		return fmt.Errorf("it holds %d things, and a project at most %d", objects, maxJSONObjects)
	}
	return nil
}
