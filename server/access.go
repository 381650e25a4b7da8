package server

import (
	"errors"
	"fmt"
	"net"
	"net/http"
	"net/netip"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"nephelon/server/api"
	"nephelon/server/sessions"
	"nephelon/store"
)

// authenticate lets through who may call an operation.
func (s *Server) authenticate(ctx huma.Context, next func(huma.Context)) {
	refuse := func(status int, text string) {
		if err := huma.WriteErr(s.api, ctx, status, text); err != nil {
			s.log.ErrorContext(ctx.Context(), "write an error", "error", err)
		}
	}
	op := ctx.Operation()
	if s.rights[op.OperationID] == anyone {
		next(huma.WithContext(ctx, sessions.WithClient(ctx.Context(), s.hostOf(ctx), ctx.Header("User-Agent"))))
		return
	}
	p, err := s.sessions.Who(ctx.Context())
	switch {
	case errors.Is(err, sessions.ErrSignedOut):
		refuse(http.StatusUnauthorized, "Sign in first.")
		return
	case errors.Is(err, store.ErrNotFound):
		refuse(http.StatusUnauthorized, "Sign in again; this account is closed.")
		return
	case err != nil:
		s.log.ErrorContext(ctx.Context(), "find who is signed in", "error", err)
		refuse(http.StatusServiceUnavailable, "The database is not available. Try again.")
		return
	}
	if !s.rights[op.OperationID].may(p.Role) {
		refuse(http.StatusForbidden, fmt.Sprintf("As %s you cannot do this; ask an owner of %s.", p.Role, p.Company))
		return
	}
	if sessions.LacksFactor(p, op.OperationID) {
		refuse(http.StatusForbidden,
			fmt.Sprintf("%s requires a second factor of everybody. Set one up under your name first.", p.Company))
		return
	}
	if turns, is := s.costly[op.OperationID]; is {
		if !turns.tryAcquire(p.ID) {
			ctx.SetHeader("Connection", "close") // what is still on its way is not waited for
			refuse(http.StatusTooManyRequests,
				fmt.Sprintf("%d long requests of yours are running already. Wait until one has finished.", turns.most))
			return
		}
		defer turns.release(p.ID)
	}
	next(huma.WithContext(ctx, api.WithPerson(ctx.Context(), p)))
	if what, is := audited()[op.OperationID]; is && ctx.Status() < http.StatusBadRequest {
		api.Base{Log: s.log, Trail: s.store}.Audit(ctx.Context(), p, what, ctx.URL().Path)
	}
}

// hostOf returns where a request comes from: as the proxy tells that the operator named, or else
// whoever is connected.
func (s *Server) hostOf(ctx huma.Context) string {
	host, _, err := net.SplitHostPort(ctx.RemoteAddr())
	if err != nil {
		host = ctx.RemoteAddr()
	}
	if s.proxy != "" && host == s.proxy {
		// Of several lines the last is the proxy's own, and so is its last entry.
		last := ""
		ctx.EachHeader(func(name, value string) {
			if strings.EqualFold(name, "X-Forwarded-For") {
				last = value[strings.LastIndexByte(value, ',')+1:]
			}
		})
		if address, err := netip.ParseAddr(strings.TrimSpace(last)); err == nil {
			return counted(address)
		}
	}
	if address, err := netip.ParseAddr(host); err == nil {
		return counted(address)
	}
	return host
}

// counted returns the key by which attempts from an address are counted: itself, or the
// network of 64 bits that one line is given of IPv6.
func counted(address netip.Addr) string {
	address = address.Unmap().WithZone("")
	if address.Is4() {
		return address.String()
	}
	const line = 64
	network, err := address.Prefix(line)
	if err != nil {
		return address.String()
	}
	return network.String()
}
