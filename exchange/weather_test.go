package exchange

import (
	"errors"
	"strings"
	"testing"
	"time"
)

// The same two hours as JSON of either shape and as tables of either comma; the hour that is
// missing between them is filled in, and told.
func TestWeatherIsRead(t *testing.T) {
	const first = `{"at":"2031-03-04T07:00:00+01:00","air":4,"humidity":0.8,"rain":0.2,"wind":2,"cloud":1,"sun":0}`
	const third = `{"at":"2031-03-04T09:00:00+01:00","air":8,"humidity":0.6,"rain":0,"wind":4,"cloud":0.5,"sun":120}`
	for name, text := range map[string]string{
		"a list": "[" + first + "," + third + "]",
		"hours":  `{"hours":[` + first + "," + third + `]}`,
		"commas": "At,Air,Humidity,Rain,Wind,Cloud,Sun\n2031-03-04T07:00:00+01:00,4,80%,0.2,2,1,0\n" +
			"2031-03-04T09:00:00+01:00,8,0.6,,4,50 %,120\n",
		"semicolons": "at;humidity;air;wind;cloud;sun;rain\r\n2031-03-04T07:00:00+01:00;0,8;4;2;1;0;0,2\r\n" +
			"2031-03-04T09:00:00+01:00;0,6;8;4;0,5;120;0\r\n",
	} {
		hours, notes, err := ReadWeather([]byte(text))
		if err != nil || len(hours) != 3 || len(notes) != 1 {
			t.Errorf("%s: %d hours, %v, %v", name, len(hours), notes, err)
			continue
		}
		if !hours[0].At.Equal(time.Date(2031, 3, 4, 6, 0, 0, 0, time.UTC)) || hours[0].Rain != 0.2 || hours[1].Air != 6 ||
			hours[2].Sun != 120 || hours[2].Cloud != 0.5 {
			t.Errorf("%s: %+v", name, hours)
		}
	}
}

func TestWeatherThatCannotBeRead(t *testing.T) {
	const head = "at,air,humidity\n"
	for text, want := range map[string]struct {
		line int
		says string
	}{
		"":                         {1, "no hours"},
		"{}":                       {1, "no hours"},
		"[1]":                      {1, "not JSON with hours"},
		"at,humidity\n1,2\n":       {1, "“air” is missing"},
		head + "yesterday,4,0.5\n": {2, "no time"},
		head + "2031-03-04T07:00:00Z,4,0.5\n2031-03-04T08:00:00Z,warm,0.5\n": {3, "no number for air"},
		head + "2031-03-04T07:00:00Z,,0.5\n":                                 {2, "air is missing"},
		head + "2031-03-04T07:00:00Z,4,65\n":                                 {2, "0.65 or 65%"},
		head + "2031-03-04T07:00:00Z,NaN,0.5\n":                              {2, "cannot be"},
	} {
		_, _, err := ReadWeather([]byte(text))
		wrong, ok := errors.AsType[*WeatherError](err)
		if !ok || wrong.Line != want.line || !strings.Contains(wrong.Text, want.says) {
			t.Errorf("%q: %v", text, err)
		}
	}
}
