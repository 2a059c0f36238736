package server

import (
	"net"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"
)

// maxBody is the largest request body, in bytes: a document at its limit.
const maxBody = 8 << 20

// contentPolicy lets the page load only what ships with it. Styles may stand in
// the page, because the component library writes its own; a worker may come from
// a blob, because the sound library makes its clock so.
const contentPolicy = "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; font-src 'self' data:; worker-src 'self' blob:; " +
	"object-src 'none'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"

func headers(c *gin.Context) {
	h := c.Writer.Header()
	h.Set("Content-Security-Policy", contentPolicy)
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("X-Frame-Options", "DENY")
	h.Set("Referrer-Policy", "no-referrer")
	h.Set("Cross-Origin-Opener-Policy", "same-origin")
	h.Set("Cross-Origin-Resource-Policy", "same-origin")
	c.Next()
}

// sameSite refuses requests for another host name, which a hostile page could
// have pointed here, and changes asked for by another site.
func sameSite(hosts []string) gin.HandlerFunc {
	return func(c *gin.Context) {
		host := c.Request.Host
		if name, _, err := net.SplitHostPort(host); err == nil {
			host = name
		}
		if !slices.Contains(hosts, strings.Trim(host, "[]")) {
			fail(c, http.StatusForbidden, "", "the host "+c.Request.Host+" is not served here; allowed: "+strings.Join(hosts, ", "))
			return
		}
		if origin := c.GetHeader("Origin"); origin != "" {
			from, err := url.Parse(origin)
			if err != nil || from.Host != c.Request.Host {
				fail(c, http.StatusForbidden, "", "requests from "+origin+" are not allowed")
				return
			}
		}
		if site := c.GetHeader("Sec-Fetch-Site"); site == "cross-site" && c.Request.Method != http.MethodGet {
			fail(c, http.StatusForbidden, "", "requests from other sites are not allowed")
			return
		}
		c.Next()
	}
}

func bounded(c *gin.Context) {
	if c.Request.ContentLength > maxBody {
		fail(c, http.StatusRequestEntityTooLarge, "", "the request is larger than 8 MiB")
		return
	}
	c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, maxBody)
	c.Next()
}
