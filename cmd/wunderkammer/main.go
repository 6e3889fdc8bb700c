// Command wunderkammer is the whole application in one binary.
package main

import (
	"errors"
	"fmt"
	"os"
	"slices"
	"strings"
	"unicode"

	"github.com/spf13/cobra"
)

// failed ends the program with a code: 1 where checks failed, 2 where the call or a file is wrong.
type failed struct {
	code int
	error
}

func main() {
	cmd := root()
	cmd.SetArgs(apart(cmd, os.Args[1:]))
	err := cmd.Execute()
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

// apart puts what looks like a flag and is none, such as the formula '-2 ^ 2', behind --, so that it is taken as it is.
func apart(cmd *cobra.Command, args []string) []string {
	sub, _, err := cmd.Find(args)
	if err != nil || slices.Contains(args, "--") {
		return args
	}
	var flags, rest []string
	for k := 0; k < len(args); k++ {
		name, _, valued := strings.Cut(strings.TrimLeft(args[k], "-"), "=")
		flag := sub.Flags().Lookup(name)
		if len(name) == 1 && flag == nil {
			flag = sub.Flags().ShorthandLookup(name)
		}
		switch known := flag != nil || name == "help" || name == "h" || name == ""; {
		case !strings.HasPrefix(args[k], "-"), !known && (len(name) > 0 && !unicode.IsLetter(rune(name[0])) || strings.ContainsAny(name, " (){}+*/^")):
			rest = append(rest, args[k])
		default:
			flags = append(flags, args[k])
			if flag != nil && !valued && flag.NoOptDefVal == "" && k+1 < len(args) {
				k++
				flags = append(flags, args[k])
			}
		}
	}
	if len(rest) == 0 {
		return args
	}
	return append(append(append([]string{rest[0]}, flags...), "--"), rest[1:]...)
}
