package climate

import (
	"fmt"
	"math"
	"time"

	"nephelon/core/measure"
)

// Day is the weather of a day as somebody types it.
type Day struct {
	On       string              `json:"on" format:"date"`
	Low      measure.Temperature `json:"low" minimum:"-60" maximum:"60" doc:"°C of the air about sunrise"`
	High     measure.Temperature `json:"high" minimum:"-60" maximum:"60" doc:"°C of the air in the afternoon"`
	Humidity measure.Fraction    `json:"humidity" minimum:"0.01" maximum:"1" doc:"Relative, halfway between low and high"`
	Rain     float64             `json:"rain,omitempty" minimum:"0" maximum:"300" doc:"mm over the day"`
	Cloud    measure.Fraction    `json:"cloud,omitempty" minimum:"0" maximum:"1" doc:"Share of the sky"`
	Wind     float64             `json:"wind,omitempty" minimum:"0" maximum:"120" doc:"m/s"`
}

// Site names where weather is typed for. Without a longitude the sun is highest as the clock of the
// zone has it.
type Site struct {
	Latitude  float64
	Longitude *float64
	Zone      *time.Location
}

// Constants of the air over a day by Parton and Logan (Agricultural Meteorology 23, 1981; from
// memory): hours that the greatest lags behind noon and the least before sunrise, and how fast a
// night cools.
const (
	lagsNoon    = 1.86
	beforeDawn  = 0.17
	nightCooled = 2.2
)

// hoursOfDay is the number of hours of which a day is made; a zone's change of its clock moves
// the last.
const hoursOfDay = 24

// course holds what the air of a day follows, in hours after its midnight.
type course struct {
	midnight      time.Time
	dawn, sunset  float64 // the least, and when the sun goes down
	declined      float64 // declination of the sun, rad
	noon          float64
	low, high     float64
	vapour, cloud float64 // hPa
}

// daylight returns how long the sun is up, h, at a latitude on a day on which it has a declination,
// rad; of days and nights that do not end, so much that the other is two hours.
func daylight(latitude, declination float64) float64 {
	cos := -math.Tan(latitude*math.Pi/180) * math.Tan(declination)
	return min(22, max(2, 2*math.Acos(min(1, max(-1, cos)))*12/math.Pi))
}

// saturation returns the vapour pressure, hPa, at which air is saturated (WMO-No. 8).
func saturation(air measure.Temperature) float64 {
	return 6.112 * math.Exp(magnusA*float64(air)/(magnusB+float64(air)))
}

// sunOf returns the declination of the sun, rad, and the equation of time, min, on a day of the
// year by Spencer (Search 2, 1971).
func sunOf(day int) (declination, equation float64) {
	g := 2 * math.Pi * float64(day-1) / 365
	sin1, cos1 := math.Sincos(g)
	sin2, cos2 := math.Sincos(2 * g)
	sin3, cos3 := math.Sincos(3 * g)
	declination = 0.006918 - 0.399912*cos1 + 0.070257*sin1 - 0.006758*cos2 + 0.000907*sin2 - 0.002697*cos3 + 0.00148*sin3
	equation = 229.18 * (0.000075 + 0.001868*cos1 - 0.032077*sin1 - 0.014615*cos2 - 0.040849*sin2)
	return declination, equation
}

// shine returns the sun on the level, W/m², at a cosine of its distance from the zenith under a
// sky of which a share is clouded: Haurwitz (Journal of Meteorology 2, 1945) for the clear one,
// Kasten and Czeplak (Solar Energy 24, 1980) for the clouds.
func shine(zenith, cloud float64) float64 {
	if zenith <= 0 {
		return 0
	}
	return 1098 * zenith * math.Exp(-0.057/zenith) * (1 - 0.75*math.Pow(cloud, 3.4))
}

// Typed returns the hours of days that follow each other, or what is wrong with them: the number of
// the first day that cannot be and why.
func Typed(days []Day, at Site) (hours []Hour, wrong int, text string) {
	courses := make([]course, len(days))
	for n, d := range days {
		midnight, err := time.ParseInLocation(time.DateOnly, d.On, at.Zone)
		switch {
		case err != nil:
			return nil, n, "This is no date. Give it as 2031-03-04."
		case d.High < d.Low:
			return nil, n, "Its high is below its low. Exchange the two."
		case n > 0 && !midnight.Equal(courses[n-1].midnight.AddDate(0, 0, 1)):
			return nil, n, fmt.Sprintf("It does not follow the day before, %s. Type days in order, without gaps.",
				days[n-1].On)
		}
		declined, equation := sunOf(midnight.YearDay())
		_, offset := midnight.Add(hoursOfDay / 2 * time.Hour).Zone()
		noon := 12 - equation/60
		if at.Longitude != nil {
			noon += float64(offset)/3600 - *at.Longitude/15
		}
		up := daylight(at.Latitude, declined)
		mean := (d.Low + d.High) / 2
		courses[n] = course{midnight: midnight, dawn: noon - up/2 - beforeDawn, sunset: noon + up/2, declined: declined,
			noon: noon, low: float64(d.Low), high: float64(d.High), cloud: float64(d.Cloud),
			vapour: float64(d.Humidity) * saturation(mean)}
	}
	for n, d := range days {
		end := courses[n].midnight.AddDate(0, 0, 1)
		for h := 0; courses[n].midnight.Add(time.Duration(h) * time.Hour).Before(end); h++ {
			air := airAt(courses, n, float64(h))
			c := courses[n]
			angle := (float64(h) + 0.5 - c.noon) * math.Pi / 12
			sin, cos := math.Sincos(at.Latitude * math.Pi / 180)
			zenith := sin*math.Sin(c.declined) + cos*math.Cos(c.declined)*math.Cos(angle)
			hours = append(hours, Hour{At: c.midnight.Add(time.Duration(h) * time.Hour), Air: measure.Temperature(air),
				Humidity: measure.Fraction(min(1, c.vapour/saturation(measure.Temperature(air)))),
				Rain:     d.Rain / hoursOfDay, Wind: d.Wind, Cloud: d.Cloud, Sun: shine(zenith, c.cloud)})
		}
	}
	return hours, 0, ""
}

// airAt returns the air, °C, of an hour of a day. Before the first day and after the last the
// weather is taken to be the same.
func airAt(all []course, n int, h float64) float64 {
	c := all[n]
	before, after := c, c
	if n > 0 {
		before = all[n-1]
	}
	if n+1 < len(all) {
		after = all[n+1]
	}
	day := func(c course, h float64) float64 {
		return c.low + (c.high-c.low)*math.Sin(math.Pi*(h-c.dawn)/(c.sunset-c.dawn-beforeDawn+2*lagsNoon))
	}
	// The night ends at the least of the day after it, which the form as published nearly reaches.
	night := func(from, until course, h float64) float64 {
		down, long := day(from, from.sunset), hoursOfDay-from.sunset+until.dawn
		left := math.Exp(-nightCooled)
		return until.low + (down-until.low)*(math.Exp(-nightCooled*h/long)-left)/(1-left)
	}
	switch {
	case h < c.dawn:
		return night(before, c, h+hoursOfDay-before.sunset)
	case h <= c.sunset:
		return day(c, h)
	}
	return night(c, after, h-c.sunset)
}
