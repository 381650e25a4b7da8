package photos

import (
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	_ "image/png" // phones send either
	"strings"

	"github.com/bep/imagemeta"
	"golang.org/x/image/draw"
)

// Redrawn checks an uploaded picture and draws it anew, upright and no larger
// than needed, with a small copy. What a camera writes beside the picture, its
// place above all, is left behind.
func Redrawn(upload []byte) (full, thumb []byte, err error) {
	if len(upload) > photoBytes {
		return nil, nil, fmt.Errorf("the photograph has %.0f MB; at most %d MB are taken. Send it in a smaller size",
			float64(len(upload))/bytesPerMB, photoBytes/bytesPerMB)
	}
	config, kind, err := image.DecodeConfig(bytes.NewReader(upload))
	if err != nil {
		return nil, nil, errors.New("this file is neither a JPEG nor a PNG picture. Save it as one of the two")
	}
	if kind != "jpeg" && kind != "png" {
		return nil, nil, fmt.Errorf("this is a %s picture. Save it as JPEG or PNG", strings.ToUpper(kind))
	}
	if config.Width > photoEdge || config.Height > photoEdge || photoTakes(config) > photoMemory {
		return nil, nil, fmt.Errorf("the picture is %d by %d points, too large to read. Send it in a smaller size",
			config.Width, config.Height)
	}
	picture, _, err := image.Decode(bytes.NewReader(upload))
	if err != nil {
		return nil, nil, fmt.Errorf("the %s picture breaks off or is damaged. Send it again", kind)
	}
	small := upright(fitted(picture, photoSide), orientation(kind, upload))
	if full, err = encoded(small); err != nil {
		return nil, nil, err
	}
	thumb, err = encoded(fitted(small, thumbSide))
	return full, thumb, err
}

// Kept returns a picture of an archive as it is, with a small copy, where it was drawn by Redrawn and
// so holds nothing but the picture: its hash stands in the log. Any other is drawn anew.
func Kept(picture []byte) (full, thumb []byte, err error) {
	full, thumb, err = Redrawn(picture)
	if err == nil && plain(picture) {
		full = picture
	}
	return full, thumb, err
}

// plain reports whether a JPEG holds none of the segments in which programs write beside a picture
// (ITU-T T.81, table B.1: APPn and COM).
func plain(picture []byte) bool {
	const (
		mark, soi, sos   = 0xff, 0xd8, 0xda
		app, com, header = 0xe0, 0xfe, 4
	)
	if len(picture) < header || picture[0] != mark || picture[1] != soi || !bytes.HasSuffix(picture, []byte{mark, 0xd9}) {
		return false
	}
	for at := 2; at+header <= len(picture) && picture[at] == mark; {
		kind := picture[at+1]
		if kind == sos {
			return true
		}
		if kind&0xf0 == app || kind == com {
			return false
		}
		at += 2 + int(picture[at+2])<<8 + int(picture[at+3])
	}
	return false
}

// photoTakes returns how many bytes it takes to read a picture and to halve it.
func photoTakes(config image.Config) int {
	each := 4.0 // bytes a point, as read
	switch config.ColorModel {
	case color.RGBA64Model, color.NRGBA64Model:
		each = 8
	case color.YCbCrModel:
		each = 3
	case color.Gray16Model:
		each = 2
	case color.GrayModel:
		each = 1
	}
	const halved = 1 // four bytes for each four points
	return int((each + halved) * float64(config.Width) * float64(config.Height))
}

// fitted returns a picture with sides of at most so many points. It is halved as often as it
// stays larger, each point the mean of four, and then drawn in its size: a kernel over all at once
// would keep 32 bytes for each point of a strip as wide as the result.
func fitted(picture image.Image, side int) image.Image {
	for {
		size := picture.Bounds().Size()
		wide, high := size.X, size.Y
		if longest := max(wide, high); longest > 2*side {
			wide, high = (wide+1)/2, (high+1)/2
		} else if longest > side {
			wide, high = max(1, wide*side/longest), max(1, high*side/longest)
		} else {
			return picture
		}
		next := image.NewRGBA(image.Rect(0, 0, wide, high))
		draw.ApproxBiLinear.Scale(next, next.Bounds(), picture, picture.Bounds(), draw.Src, nil)
		picture = next
	}
}

// orientation returns how a camera was held, 1 to 8 by EXIF 2.3; 1, upright, where a picture does
// not say.
func orientation(kind string, upload []byte) uint16 {
	held := uint16(1)
	if kind != "jpeg" {
		return held
	}
	_, err := imagemeta.Decode(imagemeta.Options{
		R: bytes.NewReader(upload), ImageFormat: imagemeta.JPEG, Sources: imagemeta.EXIF,
		ShouldHandleTag: func(tag imagemeta.TagInfo) bool { return tag.Tag == "Orientation" },
		HandleTag: func(tag imagemeta.TagInfo) error {
			if v, is := tag.Value.(uint16); is && v >= 1 && v <= 8 && tag.Namespace == "IFD0" {
				held = v
			}
			return nil
		},
	})
	if err != nil { // what a camera wrote beside the picture is damaged: it is taken as it is
		return 1
	}
	return held
}

// upright turns a picture that was taken with a camera held as EXIF says.
func upright(picture image.Image, held uint16) image.Image {
	if held <= 1 {
		return picture
	}
	from := picture.Bounds()
	wide, high := from.Dx(), from.Dy()
	size := image.Rect(0, 0, wide, high)
	if held > 4 { // its sides change places
		size = image.Rect(0, 0, high, wide)
	}
	turned := image.NewRGBA(size)
	for y := range high {
		for x := range wide {
			left, top := wide-1-x, high-1-y
			to := [...]image.Point{{X: left, Y: y}, {X: left, Y: top}, {X: x, Y: top}, {X: y, Y: x}, {X: top, Y: x},
				{X: top, Y: left}, {X: y, Y: left}}[held-2]
			turned.Set(to.X, to.Y, picture.At(from.Min.X+x, from.Min.Y+y))
		}
	}
	return turned
}

func encoded(picture image.Image) ([]byte, error) {
	var out bytes.Buffer
	if err := jpeg.Encode(&out, picture, &jpeg.Options{Quality: photoGrade}); err != nil {
		return nil, fmt.Errorf("draw the picture anew: %w", err)
	}
	return out.Bytes(), nil
}
