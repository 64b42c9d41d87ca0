package server

import (
	"net"
	"net/http"

	"github.com/gin-gonic/gin"
)

// events are the answers that tell of somebody who may not do what they tried, by the name of the event in the log.
var events = map[int]string{
	http.StatusUnauthorized: "not signed in", http.StatusForbidden: "forbidden",
	http.StatusTooManyRequests: "too many tries", http.StatusMisdirectedRequest: "another host",
}

// watched logs each request that ends as a security event.
func (s *Server) watched(c *gin.Context) {
	c.Next()
	s.securityEvent(c.Request, c.Writer.Status(), s.sessions.GetString(c.Request.Context(), "name"))
}

// securityEvent logs an answer that tells of an attack or a mistake, with who asked and from where, and no secret.
func (s *Server) securityEvent(r *http.Request, status int, name string) {
	event, is := events[status]
	if !is {
		return
	}
	address, _, err := net.SplitHostPort(r.RemoteAddr)
	if err != nil {
		address = r.RemoteAddr
	}
	s.Log.Warn("security event", "event", event, "status", status, "method", r.Method, "path", r.URL.Path, "address",
		address, "name", name)
}
