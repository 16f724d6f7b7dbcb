package pdf

import "regexp"

var page = regexp.MustCompile(`/Type\s*/Page\b`)

// Sheets counts the sheets of a document that this package wrote.
func Sheets(document []byte) int { return len(page.FindAll(document, -1)) }
