package server

import "time"

// Hurry makes every time of requests so many times shorter, for the tests.
func (s *Server) Hurry(times time.Duration) {
	t := &s.times
	t.request, t.pause, t.upload, t.drain = t.request/times, t.pause/times, t.upload/times, t.drain/times
}

// Forget forgets all plans, as after a while in which nobody asks for any.
func (s *Server) Forget() { s.jobs.Forget(time.Now().Add(time.Second)) }

// Open is how many requests are under way.
func (s *Server) Open() int32 { return s.open.Load() }
