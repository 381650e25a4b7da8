// Package bound reports what of a value lies outside what the tags of its fields allow, which the
// description of the API has too.
package bound

import (
	"fmt"
	"reflect"
	"regexp"
	"strconv"
	"strings"
	"unicode/utf8"

	"nephelon/core/measure"
)

// Outside returns what of a struct lies outside what its fields allow, as a sentence that begins
// with the path and the field; empty where nothing does.
func Outside(of any, path string) string {
	v := reflect.ValueOf(of)
	for i := range v.NumField() {
		field := v.Type().Field(i)
		name, _, _ := strings.Cut(field.Tag.Get("json"), ",")
		if text := bounded(v.Field(i), field.Tag); text != "" {
			return path + name + ": " + text
		}
	}
	return ""
}

func bounded(v reflect.Value, tag reflect.StructTag) string {
	if v.Kind() == reflect.Pointer {
		if v.IsNil() {
			return ""
		}
		v = v.Elem()
	}
	switch v.Kind() {
	case reflect.Float64:
		return within(v.Float(), v, tag)
	case reflect.Int, reflect.Int64:
		return within(float64(v.Int()), v, tag)
	case reflect.String:
		return written(v.String(), tag)
	case reflect.Slice:
		if most, ok := limit(tag, "maxItems"); ok && float64(v.Len()) > most {
			return fmt.Sprintf("%d entries are too many; enter at most %.0f", v.Len(), most)
		}
	}
	return ""
}

func limit(tag reflect.StructTag, name string) (float64, bool) {
	n, err := strconv.ParseFloat(tag.Get(name), 64)
	return n, err == nil
}

// within checks a number, and names its limits in the units of its kind.
func within(n float64, v reflect.Value, tag reflect.StructTag) string {
	least, bottom := limit(tag, "minimum")
	most, top := limit(tag, "maximum")
	if !(bottom && n < least || top && n > most) {
		return ""
	}
	words := func(n float64) string {
		switch v.Interface().(type) {
		case measure.Temperature:
			return measure.Metric.Temperature(measure.Temperature(n))
		case measure.Fraction:
			return measure.Metric.Fraction(measure.Fraction(n))
		case measure.Mass:
			return measure.Metric.Mass(measure.Mass(n))
		case measure.Film:
			return measure.Metric.Film(measure.Film(n))
		}
		return strconv.FormatFloat(n, 'g', 6, 64)
	}
	return fmt.Sprintf("%s is outside %s to %s; read it again and enter it anew", words(n), words(least), words(most))
}

func written(text string, tag reflect.StructTag) string {
	long := float64(utf8.RuneCountInString(text))
	if least, ok := limit(tag, "minLength"); ok && long < least {
		return fmt.Sprintf("it has %.0f characters and needs %.0f", long, least)
	}
	if most, ok := limit(tag, "maxLength"); ok && long > most {
		return fmt.Sprintf("%.0f characters are too many; shorten it to %.0f", long, most)
	}
	if strings.ContainsRune(text, 0) || !utf8.ValidString(text) {
		return "it holds a character that cannot be stored; remove it"
	}
	if pattern := tag.Get("pattern"); pattern != "" && text != "" {
		if fits, err := regexp.MatchString(pattern, text); err != nil || !fits {
			return "its format is not valid; draw or enter it again"
		}
	}
	return ""
}
