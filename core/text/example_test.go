package text_test

import (
	"fmt"

	"ornamen/core/text"
)

func ExampleClip() {
	fmt.Println(text.Clip("Mühlrad an der Schleuse", 7), text.Clip("Weir", 7), text.Cut("Mühlrad", 3))
	// Output: Mühlrad… Weir Müh
}
