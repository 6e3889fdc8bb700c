// Command contract writes the types that the page shares with the core, and the schema of project files, into the two files that it is
// given. It is started from the root of the project.
package main

import (
	"fmt"
	"os"

	"wunderkammer/core/contract"
)

func main() {
	text, err := contract.Write(".")
	if err == nil {
		err = os.WriteFile(os.Args[1], []byte(text), 0o644)
	}
	if err == nil {
		var schema []byte
		if schema, err = contract.Schema("."); err == nil {
			err = os.WriteFile(os.Args[2], schema, 0o644)
		}
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}
