package drawing

import (
	"encoding/json"
	"math"

	"github.com/paulmach/orb"
	"github.com/paulmach/orb/geojson"

	"nephelon/core/geometry"
)

// largestSite is the reach in degrees up to which coordinates are taken for
// longitude and latitude (about 5 km): a floor is never larger.
const largestSite = 0.05

// metresPerDegree of latitude on a sphere of the Earth's mean radius, 6371.0088
// km (IUGG, from memory).
const metresPerDegree = math.Pi / 180 * 6371008.8

// geoJSON reads polygons (RFC 7946). Small coordinates near each other are
// longitude and latitude, as the standard has them; others are taken as a plane.
func (f *finder) geoJSON(content []byte) error {
	f.result.Format = "GeoJSON"
	var head struct {
		Type string `json:"type"`
	}
	if err := json.Unmarshal(content, &head); err != nil {
		return refuse("The GeoJSON is broken: %v.", err)
	}
	var features []*geojson.Feature
	switch head.Type {
	case "FeatureCollection":
		c, err := geojson.UnmarshalFeatureCollection(content)
		if err != nil {
			return refuse("The GeoJSON is broken: %v.", err)
		}
		features = c.Features
	case "Feature":
		one, err := geojson.UnmarshalFeature(content)
		if err != nil {
			return refuse("The GeoJSON is broken: %v.", err)
		}
		features = append(features, one)
	default:
		g, err := geojson.UnmarshalGeometry(content)
		if err != nil || g.Geometry() == nil {
			return refuse("This JSON is not GeoJSON: its type is “%.40s”.", head.Type)
		}
		features = append(features, geojson.NewFeature(g.Geometry()))
	}
	if len(features) > maxEntities {
		return refuse("The GeoJSON holds more than %d features. Export only the outlines.", maxEntities)
	}
	for _, feature := range features {
		if feature == nil || feature.Geometry == nil {
			f.leave("feature", "has no geometry")
			continue
		}
		name, _ := feature.Properties["name"].(string)
		f.geometry(name, feature.Geometry)
	}
	f.project()
	return nil
}

func (f *finder) geometry(name string, g orb.Geometry) {
	switch v := g.(type) {
	case orb.Polygon:
		for i, ring := range v {
			kind := "polygon"
			if i > 0 {
				kind = "hole"
			}
			f.take(name, kind, ringOf(ring))
		}
	case orb.MultiPolygon:
		for _, p := range v {
			f.geometry(name, p)
		}
	case orb.Collection:
		for _, part := range v {
			f.geometry(name, part)
		}
	case orb.LineString:
		if len(v) > 3 && v[0] == v[len(v)-1] {
			f.take(name, "closed line", ringOf(v))
		} else {
			f.leave("line", "is not closed")
		}
	default:
		f.leave(g.GeoJSONType(), "is not an outline")
	}
}

func ringOf[T ~[]orb.Point](points T) geometry.Ring {
	ring := make(geometry.Ring, len(points))
	for i, p := range points {
		ring[i] = geometry.Point{X: p[0], Y: p[1]}
	}
	return ring
}

// project turns longitude and latitude into metres east and north of the
// middle, where that is what the coordinates are.
func (f *finder) project() {
	low, high := geometry.Point{X: math.Inf(1), Y: math.Inf(1)}, geometry.Point{X: math.Inf(-1), Y: math.Inf(-1)}
	for _, s := range f.result.Shapes {
		for _, p := range s.Outline {
			low = geometry.Point{X: math.Min(low.X, p.X), Y: math.Min(low.Y, p.Y)}
			high = geometry.Point{X: math.Max(high.X, p.X), Y: math.Max(high.Y, p.Y)}
		}
	}
	degrees := high.X-low.X <= largestSite && high.Y-low.Y <= largestSite &&
		low.X >= -180 && high.X <= 180 && low.Y >= -90 && high.Y <= 90
	if len(f.result.Shapes) == 0 || !degrees {
		return
	}
	f.result.Unit, f.result.Scale = "longitude and latitude, turned into metres", 1
	middle := geometry.Point{X: (low.X + high.X) / 2, Y: (low.Y + high.Y) / 2}
	shrink := math.Cos(middle.Y * math.Pi / 180)
	for i := range f.result.Shapes {
		s := &f.result.Shapes[i]
		for k, p := range s.Outline {
			s.Outline[k] = geometry.Point{X: (p.X - middle.X) * metresPerDegree * shrink, Y: (p.Y - middle.Y) * metresPerDegree}
		}
		s.Area = math.Abs(s.Outline.SignedArea())
	}
}
