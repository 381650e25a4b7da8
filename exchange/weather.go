package exchange

import (
	"bytes"
	"cmp"
	"encoding/csv"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"nephelon/core/climate"
	"nephelon/core/measure"
)

// WeatherError says where a file of hours cannot be read.
type WeatherError struct {
	Line int // of the file, from 1; of JSON the entry
	Text string
}

// Error says the line and what is wrong with it.
func (e *WeatherError) Error() string { return fmt.Sprintf("line %d: %s", e.Line, e.Text) }

// mostHours is the number of hours that a forecast may have.
const mostHours = 400

// ReadWeather reads hours of weather: JSON as the bridge gives them, or CSV with the columns at, air
// and humidity, and rain, wind, cloud and sun where they are known. Hours that are missing between
// others are filled in along a straight line; what was done so is told.
func ReadWeather(text []byte) (hours []climate.Hour, notes []string, err error) {
	text = bytes.TrimPrefix(bytes.TrimSpace(text), []byte("\ufeff"))
	if len(text) > 0 && (text[0] == '{' || text[0] == '[') {
		hours, err = weatherJSON(text)
	} else {
		hours, err = weatherCSV(text)
	}
	if err != nil {
		return nil, nil, err
	}
	hours, faults := climate.Hourly(hours)
	for _, f := range faults {
		notes = append(notes, fmt.Sprintf("Entry %d: %s", f.Index+1, f.Text))
	}
	if len(hours) > mostHours {
		hours = hours[:mostHours]
		notes = append(notes, fmt.Sprintf("Only the first %d hours are taken.", mostHours))
	}
	return hours, notes, nil
}

func weatherJSON(text []byte) ([]climate.Hour, error) {
	var told struct {
		Hours []climate.Hour `json:"hours"`
	}
	var into any = &told
	if text[0] == '[' {
		into = &told.Hours
	}
	if err := json.Unmarshal(text, into); err != nil {
		return nil, &WeatherError{1, "This is not JSON with hours of weather: " + err.Error()}
	}
	if len(told.Hours) == 0 {
		return nil, &WeatherError{1, "There are no hours in it. Name them “hours”, or give a list of them."}
	}
	for n, h := range told.Hours {
		if bad := unusual(h); bad != "" {
			return nil, &WeatherError{n + 1, bad}
		}
	}
	return told.Hours, nil
}

// weatherColumns are the columns of a table of hours, the first three of which it must have.
func weatherColumns() []string {
	return []string{"at", "air", "humidity", "rain", "wind", "cloud", "sun"}
}

func weatherCSV(text []byte) ([]climate.Hour, error) {
	rows := csv.NewReader(bytes.NewReader(text))
	rows.TrimLeadingSpace = true
	if first, _, _ := bytes.Cut(text, []byte("\n")); bytes.Count(first, []byte(";")) > bytes.Count(first, []byte(",")) {
		rows.Comma = ';'
	}
	all, err := rows.ReadAll()
	if err != nil {
		return nil, &WeatherError{1, "This is no table of values between commas: " + err.Error()}
	}
	if len(all) < 2 {
		return nil, &WeatherError{1, "There are no hours in it. Give a heading and a line for each hour."}
	}
	place := make(map[string]int)
	for n, name := range all[0] {
		place[strings.ToLower(strings.TrimSpace(name))] = n
	}
	for _, name := range weatherColumns()[:3] {
		if _, there := place[name]; !there {
			return nil, &WeatherError{1, fmt.Sprintf("The column “%s” is missing. Head the columns %s.", name,
				strings.Join(weatherColumns(), ", "))}
		}
	}
	hours := make([]climate.Hour, len(all)-1)
	for n, row := range all[1:] {
		h, bad := weatherRow(row, place)
		if bad = cmp.Or(bad, unusual(h)); bad != "" {
			return nil, &WeatherError{n + 2, bad}
		}
		hours[n] = h
	}
	return hours, nil
}

// weatherRow reads an hour from the fields of a line, or says what cannot be read.
func weatherRow(row []string, place map[string]int) (h climate.Hour, bad string) {
	at, err := time.Parse(time.RFC3339, row[place["at"]])
	if err != nil {
		return h, fmt.Sprintf("“%s” is no time. Give it with its zone, as 2031-03-04T07:00:00+01:00.", row[place["at"]])
	}
	h.At = at
	read := func(name string) float64 {
		n, there := place[name]
		if !there || n >= len(row) || strings.TrimSpace(row[n]) == "" || bad != "" {
			if bad == "" && slices.Contains(weatherColumns()[:3], name) {
				bad = fmt.Sprintf("Its %s is missing.", name)
			}
			return 0
		}
		text, share := strings.CutSuffix(strings.TrimSpace(row[n]), "%")
		value, err := strconv.ParseFloat(strings.Replace(strings.TrimSpace(text), ",", ".", 1), 64)
		if err != nil {
			bad = fmt.Sprintf("“%s” is no number for %s.", row[n], name)
		}
		if share {
			value /= 100
		}
		return value
	}
	h.Air, h.Humidity = measure.Temperature(read("air")), measure.Fraction(read("humidity"))
	h.Rain, h.Wind, h.Cloud, h.Sun = read("rain"), read("wind"), measure.Fraction(read("cloud")), read("sun")
	return h, bad
}

// unusual returns what no weather can be.
func unusual(h climate.Hour) string {
	for _, v := range []struct {
		name, unit         string
		value, least, most float64
	}{
		{"air", "°C", float64(h.Air), -60, 60},
		{"humidity", "as a share, 0.65 or 65%", float64(h.Humidity), 0, 1},
		{"rain", "mm in the hour", h.Rain, 0, 300},
		{"wind", "m/s", h.Wind, 0, 120},
		{"cloud", "as a share of the sky", float64(h.Cloud), 0, 1},
		{"sun", "W/m²", h.Sun, 0, 1500},
	} {
		if !(v.value >= v.least && v.value <= v.most) || math.IsInf(v.value, 0) {
			return fmt.Sprintf("%s of %g cannot be: it is %g to %g, %s.", v.name, v.value, v.least, v.most, v.unit)
		}
	}
	return ""
}
