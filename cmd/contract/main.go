// Command contract writes the types that the page shares with the core, the schema of project files, and the description of the API, into
// the three files that it is given. It is started from the root of the project.
package main

import (
	"fmt"
	"os"

	"wunderkammer/core/contract"
	"wunderkammer/server/openapi"
)

func main() {
	for k, write := range []func(root string) ([]byte, error){contract.Write, contract.Schema, openapi.Write} {
		data, err := write(".")
		if err == nil {
			err = os.WriteFile(os.Args[k+1], data, 0o644)
		}
		if err != nil {
			fmt.Fprintln(os.Stderr, err)
			os.Exit(1)
		}
	}
}
