// Command wunderkammer is the whole application in one binary.
package main

import (
	"errors"
	"fmt"
	"os"
	"strings"
)

// failed ends the program with a code: 1 where checks failed, 2 where the call or a file is wrong.
type failed struct {
	code int
	error
}

func main() {
	err := root().Execute()
	if err == nil {
		return
	}
	code := 2
	var f failed
	if errors.As(err, &f) {
		code = f.code
	}
	if message := err.Error(); message != "" {
		fmt.Fprintln(os.Stderr, "wunderkammer: "+strings.ReplaceAll(message, "\n", " "))
	}
	os.Exit(code)
}
