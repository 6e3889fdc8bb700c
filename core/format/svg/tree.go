package svg

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"strings"
)

// Bounds on what is read.
const (
	MaxBytes    = 32 << 20
	MaxElements = 20000
	maxDepth    = 200
)

// element is an element of the file, with what stands in it.
type element struct {
	name     string // without its namespace, small letters kept as they are
	attrs    map[string]string
	children []*element
	text     strings.Builder // of style sheets, titles and texts
	parent   *element
}

func (e *element) get(name string) string { return strings.TrimSpace(e.attrs[name]) }

// parse reads a file into a tree. Nothing outside of the file is ever looked at: there are no
// entities but those of XML itself, and references lead only to ids.
func parse(data []byte) (*element, error) {
	if len(bytes.TrimSpace(data)) == 0 {
		return nil, errors.New("the file is empty")
	}
	if len(data) > MaxBytes {
		return nil, fmt.Errorf("the file has more than %d MB, which is too much for one drawing; split it into several", MaxBytes>>20)
	}
	d := xml.NewDecoder(bytes.NewReader(data))
	d.CharsetReader = func(label string, _ io.Reader) (io.Reader, error) {
		return nil, fmt.Errorf("it is written in %s; save it as UTF-8", clip(label))
	}
	var root, at *element
	count, depth := 0, 0
	for {
		token, err := d.Token()
		if err == io.EOF {
			break
		}
		if err != nil {
			return nil, broken(data, err)
		}
		switch t := token.(type) {
		case xml.StartElement:
			if count++; count > MaxElements {
				return nil, fmt.Errorf("the drawing has more than %d elements; simplify it, or import it in parts", MaxElements)
			}
			if depth++; depth > maxDepth {
				return nil, fmt.Errorf("the drawing's groups are nested more than %d deep", maxDepth)
			}
			e := &element{name: t.Name.Local, attrs: make(map[string]string, len(t.Attr)), parent: at}
			for _, a := range t.Attr {
				e.attrs[a.Name.Local] = a.Value
			}
			if at != nil {
				at.children = append(at.children, e)
			} else if root == nil {
				root = e
			}
			at = e
		case xml.EndElement:
			depth--
			at = at.parent
		case xml.CharData:
			if at != nil {
				if s := string(t); at.name == "text" || at.name == "tspan" {
					words := &element{name: "#text", parent: at}
					words.text.WriteString(s)
					at.children = append(at.children, words)
				} else {
					at.text.WriteString(s)
				}
			}
		}
	}
	if root == nil || root.name != "svg" {
		return nil, errors.New("the file is not an SVG drawing")
	}
	return root, nil
}

func broken(data []byte, err error) error {
	if strings.Contains(err.Error(), "entity") && bytes.Contains(data, []byte("<!ENTITY")) {
		return errors.New("the file defines its own entities, which aren't supported; save it again without them")
	}
	var syntax *xml.SyntaxError
	if errors.As(err, &syntax) {
		return fmt.Errorf("the file is not valid SVG: line %d: %s", syntax.Line, syntax.Msg)
	}
	return fmt.Errorf("the file can't be read: %w", err)
}

// walk calls with every element of the tree.
func (e *element) walk(visit func(*element)) {
	visit(e)
	for _, c := range e.children {
		c.walk(visit)
	}
}
