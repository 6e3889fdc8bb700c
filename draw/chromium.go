package draw

import (
	"errors"
	"fmt"
	"os"
	"os/exec"
)

// names are what an installed Chromium is called, in the order in which they are tried.
var names = []string{"chromium", "chromium-browser", "google-chrome", "google-chrome-stable", "chrome", "microsoft-edge", "/Applications/Chromium.app/Contents/MacOS/Chromium", "/Applications/Google Chrome.app/Contents/MacOS/Google Chrome"}

// Chromium finds the browser that draws: the named one, or whichever is installed.
func Chromium(named string) (string, error) {
	if named != "" {
		path, err := exec.LookPath(named)
		if err != nil {
			return "", fmt.Errorf("there is no Chromium at %s", named)
		}
		return path, nil
	}
	for _, name := range names {
		if path, err := exec.LookPath(name); err == nil {
			return path, nil
		}
	}
	return "", errors.New("pictures are drawn by Chromium, and none was found; install one, or name it with --chromium")
}

// contained reports whether the browser can shut its pages in, which it refuses to whoever may do everything anyhow.
func contained() bool { return os.Geteuid() != 0 }
