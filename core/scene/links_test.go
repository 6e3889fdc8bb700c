package scene_test

import _ "wunderkammer/core/link" // the kinds of links that the tests of this package check
