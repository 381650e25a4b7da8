package photos

import (
	"bytes"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"testing"
)

// marked is a picture of 6 by 4 points with one white point near its upper left corner.
func marked() image.Image {
	p := image.NewRGBA(image.Rect(0, 0, 6, 4))
	p.Set(1, 0, color.White)
	return p
}

// Where the marked point comes to rest for each way to hold a camera, by the table of EXIF 2.3
// (tag 0x0112, from memory): 6 is a quarter turn clockwise, 8 one counter-clockwise.
func TestUpright(t *testing.T) {
	for held, want := range map[uint16]image.Point{1: {X: 1, Y: 0}, 2: {X: 4, Y: 0}, 3: {X: 4, Y: 3}, 4: {X: 1, Y: 3},
		5: {X: 0, Y: 1}, 6: {X: 3, Y: 1}, 7: {X: 3, Y: 4}, 8: {X: 0, Y: 4}} {
		turned := upright(marked(), held)
		size := turned.Bounds().Size()
		if held > 4 != (size == image.Point{X: 4, Y: 6}) {
			t.Errorf("held %d: %v", held, size)
		}
		if r, _, _, _ := turned.At(want.X, want.Y).RGBA(); r < 0x8000 {
			t.Errorf("held %d: the point is not at %v", held, want)
		}
	}
}

// A picture keeps its proportions, gets no larger than asked for, and one that is small enough
// stays as it is. The mean of a fine pattern stays its mean: nothing is skipped.
func TestFitted(t *testing.T) {
	p := image.NewGray(image.Rect(0, 0, 4000, 1000))
	for y := range 1000 {
		for x := range 4000 {
			if (x+y)%2 == 0 {
				p.SetGray(x, y, color.Gray{Y: 200})
			}
		}
	}
	small := fitted(p, 320)
	if size := small.Bounds().Size(); size.X != 320 || size.Y != 80 {
		t.Fatalf("%v", size)
	}
	for _, at := range []image.Point{{X: 10, Y: 10}, {X: 200, Y: 50}, {X: 319, Y: 79}} {
		if r, _, _, _ := small.At(at.X, at.Y).RGBA(); r>>8 < 95 || r>>8 > 105 {
			t.Errorf("at %v the mean of 0 and 200 is %d", at, r>>8)
		}
	}
	if same := fitted(small, 320); same != small {
		t.Error("a picture that is small enough is drawn again")
	}
}

// What cannot be read is refused in a sentence; an orientation that is damaged is none.
func TestRedrawnRefusals(t *testing.T) {
	var whole bytes.Buffer
	if err := jpeg.Encode(&whole, marked(), nil); err != nil {
		t.Fatal(err)
	}
	var drawn bytes.Buffer
	if err := png.Encode(&drawn, marked()); err != nil {
		t.Fatal(err)
	}
	for name, upload := range map[string][]byte{"nothing": nil, "text": []byte("hello"),
		"cut off": whole.Bytes()[:len(whole.Bytes())-len(whole.Bytes())/3], "too much": make([]byte, photoBytes+1)} {
		if _, _, err := Redrawn(upload); err == nil {
			t.Errorf("%s is taken", name)
		}
	}
	for name, upload := range map[string][]byte{"JPEG": whole.Bytes(), "PNG": drawn.Bytes()} {
		if full, thumb, err := Redrawn(upload); err != nil || len(full) == 0 || len(thumb) == 0 {
			t.Errorf("%s: %v", name, err)
		}
	}
	if held := orientation("jpeg", []byte("\xff\xd8\xff\xe1\x00\x10Exif\x00\x00MM")); held != 1 {
		t.Errorf("a damaged segment is held %d", held)
	}
}
