// Package syntax is how formulas are written: it takes a text apart into a tree with places, reads and writes references, reads a
// formula out in words, and says what is meant where somebody writes as elsewhere. It knows nothing of what there is to refer to.
package syntax

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"
)

// Bounds of one formula.
const (
	MaxLength = 20000 // characters
	MaxDepth  = 64    // levels of nesting
)

// Problem is something that is wrong with a formula, or may be.
type Problem struct {
	At       int // byte where it begins
	End      int // byte behind it
	Sentence string
	Fixes    []Fix
	Warning  bool
}

// Error returns the sentence.
func (p *Problem) Error() string { return p.Sentence }

// Placed returns the problem as an error that says where in a formula it stands.
func (p *Problem) Placed(text string) error {
	line, column := Place(text, p.At)
	return fmt.Errorf("line %d, column %d: %s", line, column, p.Sentence)
}

// Fix is an edit that mends a problem: the text from At to End becomes Text.
type Fix struct {
	Label   string
	At, End int
	Text    string
}

// Place returns the line and the column of a byte of a formula, both counted from 1, in characters.
func Place(text string, at int) (line, column int) {
	before := text[:min(at, len(text))]
	line = 1 + strings.Count(before, "\n")
	return line, 1 + utf8.RuneCountInString(before[strings.LastIndexByte(before, '\n')+1:])
}

// tokenKind tells tokens apart.
type tokenKind int

const (
	tokenEnd tokenKind = iota
	tokenNewline
	tokenNumber
	tokenName
	tokenText
	tokenColour
	tokenRef
	tokenSign // an operator or bracket
)

// token is a piece of a formula.
type token struct {
	Kind    tokenKind
	at, end int
	Text    string  // of names, signs and units; what stands in the braces of a reference, in the quotes of a text
	number  float64 // of numbers, without their unit
	colour  [4]float64
}

// signs lists operators and brackets, longer ones first.
var signs = []string{"<=", ">=", "==", "!=", "≠", "=", "<", ">", "+", "-", "*", "/", "^", "(", ")", "[", "]", ",", "."}

// scan cuts a formula into tokens. Line ends within brackets are left out.
func scan(text string) ([]token, *Problem) { return scanInto(nil, text) }

// scanInto is scan that puts the tokens into a slice which is there already, if it has room.
func scanInto(out []token, text string) ([]token, *Problem) {
	if utf8.RuneCountInString(text) > MaxLength {
		return nil, &Problem{At: 0, End: len(text), Sentence: fmt.Sprintf("the formula is longer than %d characters; split it into several links", MaxLength)}
	}
	s := &scanner{text: text, out: slices.Grow(out[:0], len(text)/3+4)}
	for s.at < len(text) {
		if p := s.next(); p != nil {
			return nil, p
		}
	}
	s.add(token{Kind: tokenEnd, at: len(text), end: len(text)})
	return s.out, nil
}

type scanner struct {
	text  string
	at    int
	depth int // of brackets
	out   []token
}

func (s *scanner) add(t token) { s.out = append(s.out, t) }

func (s *scanner) next() *Problem {
	rest := s.text[s.at:]
	c, size := utf8.DecodeRuneInString(rest)
	switch {
	case c == '\n':
		if s.depth == 0 {
			s.add(token{Kind: tokenNewline, at: s.at, end: s.at + 1})
		}
		s.at++
	case unicode.IsSpace(c):
		s.at += size
	case strings.HasPrefix(rest, "//"):
		if end := strings.IndexByte(rest, '\n'); end >= 0 {
			s.at += end
		} else {
			s.at = len(s.text)
		}
	case c == '{':
		return s.reference()
	case c == '"':
		return s.quoted()
	case c == '#':
		return s.colour()
	case isDigit(rest, 0) || c == '.' && isDigit(rest, 1):
		return s.number()
	case unicode.IsLetter(c) || c == '_':
		end := s.at + size
		for end < len(s.text) {
			c, size := utf8.DecodeRuneInString(s.text[end:])
			if !unicode.IsLetter(c) && !unicode.IsDigit(c) && c != '_' {
				break
			}
			end += size
		}
		s.add(token{Kind: tokenName, at: s.at, end: end, Text: s.text[s.at:end]})
		s.at = end
	default:
		return s.sign(c, size)
	}
	return nil
}

func isDigit(s string, at int) bool { return at < len(s) && s[at] >= '0' && s[at] <= '9' }

func (s *scanner) sign(c rune, size int) *Problem {
	for _, sign := range signs {
		if strings.HasPrefix(s.text[s.at:], sign) {
			switch sign {
			case "(", "[":
				s.depth++
			case ")", "]":
				s.depth = max(0, s.depth-1)
			}
			s.add(token{Kind: tokenSign, at: s.at, end: s.at + len(sign), Text: sign})
			s.at += len(sign)
			return nil
		}
	}
	return s.foreign(c, size)
}

// number reads digits, and the unit that may stand right behind them.
func (s *scanner) number() *Problem {
	end := s.at
	for isDigit(s.text, end) || end < len(s.text) && s.text[end] == '.' && isDigit(s.text, end+1) {
		end++
	}
	if end < len(s.text) && (s.text[end] == 'e' || s.text[end] == 'E') {
		exponent := end + 1
		if exponent < len(s.text) && (s.text[exponent] == '+' || s.text[exponent] == '-') {
			exponent++
		}
		if isDigit(s.text, exponent) {
			for end = exponent; isDigit(s.text, end); end++ {
			}
		}
	}
	x, err := strconv.ParseFloat(s.text[s.at:end], 64)
	if err != nil {
		return &Problem{At: s.at, End: end, Sentence: fmt.Sprintf("%s is not a number that can be used", s.text[s.at:end])}
	}
	unit := end
	for unit < len(s.text) && unicode.IsLetter(rune(s.text[unit])) && s.text[unit] < utf8.RuneSelf {
		unit++
	}
	name := s.text[end:unit]
	if _, ok := Units[name]; !ok {
		return noUnit(name, end, unit)
	}
	s.add(token{Kind: tokenNumber, at: s.at, end: unit, Text: name, number: x})
	s.at = unit
	return nil
}

func (s *scanner) colour() *Problem {
	end := s.at + 1
	for end < len(s.text) && strings.IndexByte("0123456789abcdefABCDEF", s.text[end]) >= 0 {
		end++
	}
	digits := s.text[s.at+1 : end]
	if len(digits) != 6 && len(digits) != 8 {
		return &Problem{At: s.at, End: max(end, s.at+1), Sentence: "a colour is written with 6 or 8 digits, such as #d9a441 or #d9a44180"}
	}
	t := token{Kind: tokenColour, at: s.at, end: end, colour: [4]float64{0, 0, 0, 1}}
	for i := range len(digits) / 2 {
		n, _ := strconv.ParseUint(digits[2*i:2*i+2], 16, 8)
		t.colour[i] = float64(n) / 255
	}
	s.add(t)
	s.at = end
	return nil
}

func (s *scanner) quoted() *Problem {
	var b strings.Builder
	for i := s.at + 1; i < len(s.text); i++ {
		switch c := s.text[i]; c {
		case '"':
			s.add(token{Kind: tokenText, at: s.at, end: i + 1, Text: b.String()})
			s.at = i + 1
			return nil
		case '\\':
			if i+1 < len(s.text) {
				i++
				b.WriteByte(s.text[i])
			}
		default:
			b.WriteByte(c)
		}
	}
	end := len(s.text)
	return &Problem{At: s.at, End: end, Sentence: "missing closing quote for the text that starts here", Fixes: []Fix{{"close it", end, end, `"`}}}
}

// reference reads what stands between braces; names in it may be quoted.
func (s *scanner) reference() *Problem {
	quoted, brackets, inside := false, 0, 0 // in brackets stands a formula, which may hold references itself
	for i := s.at + 1; i < len(s.text); i++ {
		switch c := s.text[i]; {
		case c == '"':
			quoted = !quoted
		case quoted:
		case c == '[':
			brackets++
		case c == ']':
			brackets--
		case c == '{' && brackets > 0:
			inside++
		case c == '}' && inside > 0:
			inside--
		case c == '}':
			s.add(token{Kind: tokenRef, at: s.at, end: i + 1, Text: s.text[s.at+1 : i]})
			s.at = i + 1
			return nil
		case c == '{' || c == '\n':
			return s.unclosed(i)
		}
	}
	return s.unclosed(len(s.text))
}

func (s *scanner) unclosed(end int) *Problem {
	return &Problem{At: s.at, End: end, Sentence: "missing } for the reference that starts here", Fixes: []Fix{{"close it", end, end, "}"}}}
}
