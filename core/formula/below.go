package formula

// AsksBelow reports whether a formula asks for what the links under its own make.
func AsksBelow(text string) bool {
	tokens, _ := scan(text)
	for _, t := range tokens {
		if t.kind == tokenName && t.text == "below" {
			return true
		}
	}
	return false
}
