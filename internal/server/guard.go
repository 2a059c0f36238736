package server

import (
	"crypto/subtle"
	"net"
	"net/http"
	"net/netip"
	"net/url"
	"path"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"agrimony/internal/core/piece"
)

// The largest request bodies, in bytes: of an edit, and of a whole document.
const (
	maxBody     = 8 << 20
	maxDocument = piece.MaxBytes
)

// contentPolicy lets the page load only what ships with it. Styles may stand in
// the page, because the component library writes its own.
const contentPolicy = "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; font-src 'self' data:; worker-src 'self'; " +
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
		host = strings.Trim(host, "[]")
		// This machine's names for itself are true only on this machine.
		if !slices.Contains(hosts, host) || (slices.Contains(Loopback, host) && !fromHere(c)) {
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

// fromHere tells whether a request comes from this machine. (Without an address, it
// comes from no network.)
func fromHere(c *gin.Context) bool {
	peer, err := netip.ParseAddrPort(c.Request.RemoteAddr)
	return err != nil || peer.Addr().Unmap().IsLoopback()
}

// TokenName is that of the cookie and of the query that carry the word which a
// server open to other machines asks for.
const TokenName = "agrimony-token"

// known lets in who has the word: from the address that the server printed, once,
// and then from a cookie.
func known(token string) gin.HandlerFunc {
	same := func(given string) bool { return subtle.ConstantTimeCompare([]byte(given), []byte(token)) == 1 }
	return func(c *gin.Context) {
		if given := c.Query(TokenName); same(given) {
			query := c.Request.URL.Query()
			query.Del(TokenName)
			http.SetCookie(c.Writer, &http.Cookie{Name: TokenName, Value: token, Path: "/", HttpOnly: true, SameSite: http.SameSiteStrictMode})
			c.Redirect(http.StatusSeeOther, (&url.URL{Path: path.Clean("/" + c.Request.URL.Path), RawQuery: query.Encode()}).String())
			c.Abort()
			return
		}
		if cookie, err := c.Cookie(TokenName); err != nil || !same(cookie) {
			fail(c, http.StatusUnauthorized, "", "open the address that the server printed when it started")
			return
		}
		c.Next()
	}
}
