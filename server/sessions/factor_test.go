package sessions

import (
	"testing"
	"time"
)

// Of RFC 6238, appendix B: the code at 59 s, of its last six digits. It is taken a step early or
// late, and no further.
func TestCodesAreThoseOfTheStandard(t *testing.T) {
	const secret, code = "GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ", "287082" // "12345678901234567890" in base32
	for at, want := range map[int64]bool{29: true, 59: true, 89: true, 90: false, 119: false, 1111111109: false} {
		step, is := stepOf(secret, code, time.Unix(at, 0))
		if is != want || is && step != 1 {
			t.Errorf("at %d s: step %d, %v", at, step, is)
		}
	}
}
