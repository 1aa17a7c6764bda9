package httpapi

import (
	"bytes"
	"crypto/rand"
	"errors"
	"io"
	"net"
	"net/http"
	"net/netip"
	"os"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync/atomic"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/valyala/fasthttp"

	"handwerk/picture"
)

// This file holds what stands between a stranger and the rest: which names we
// answer to, whose address counts, and how much of a body is read.

func hostNames(hosts []string) map[string]bool {
	if len(hosts) == 0 {
		hosts = []string{"localhost", "127.0.0.1", "::1"}
	}
	names := map[string]bool{}
	for _, h := range hosts {
		names[bareHost(h)] = true
	}
	return names
}

// bareHost is a Host value without its port and brackets.
func bareHost(host string) string {
	if h, _, err := net.SplitHostPort(host); err == nil {
		host = h
	}
	return strings.ToLower(strings.Trim(host, "[]"))
}

// hostKnown refuses requests that were meant for another name: a page of
// theirs may have pointed its own name at this machine.
func (a *door) hostKnown(c fiber.Ctx) error {
	if path := c.Path(); path == "/healthz" || path == "/readyz" || a.hosts[bareHost(string(c.Request().Host()))] {
		return c.Next()
	}
	return problem(http.StatusMisdirectedRequest, "Not this server",
		"This server does not answer to that name (see HANDWERK_HOSTS).")
}

// address is the sender's, or the one a trusted proxy saw: the last in the
// list that is no trusted proxy itself. Anything before it can be made up.
func (a *door) address(c fiber.Ctx) netip.Addr {
	from, err := netip.ParseAddrPort(c.RequestCtx().RemoteAddr().String())
	if err != nil {
		return netip.IPv4Unspecified()
	}
	at := from.Addr().Unmap()
	for _, hop := range slices.Backward(strings.Split(c.Get(fiber.HeaderXForwardedFor), ",")) {
		if !slices.ContainsFunc(a.Proxies, func(p netip.Prefix) bool { return p.Contains(at) }) {
			break
		}
		next, err := netip.ParseAddr(strings.TrimSpace(hop))
		if err != nil {
			break
		}
		at = next.Unmap().WithZone("")
	}
	return at
}

// unpacked refuses bodies that would have to be unpacked before anybody knows
// how large they are.
func (a *door) unpacked(c fiber.Ctx) error {
	if c.Request().Header.Peek(fiber.HeaderContentEncoding) != nil {
		return problem(http.StatusUnsupportedMediaType, "Packed", "Send the body as it is, without Content-Encoding.")
	}
	// Two lengths are two readings of where a request ends (RFC 9112, 6.1): what
	// stands before this server may have read the other one.
	raw := bytes.ToLower(c.Request().Header.RawHeaders())
	if bytes.Contains(raw, []byte("transfer-encoding:")) && hasLength.Match(raw) {
		c.Set(fiber.HeaderConnection, "close")
		return problem(http.StatusBadRequest, "Two lengths", "Content-Length and Transfer-Encoding do not go together.")
	}
	return c.Next()
}

var hasLength = regexp.MustCompile(`(^|\n)content-length[ \t]*:`)

// declaredHeader carries a body's announced length past the server, which
// would otherwise wait for its first bytes before anybody looked who sends it.
const declaredHeader = "X-Declared-Length"

// headReceived hands the request on as soon as its head is there, and gives a
// picture on its way in more time than other requests.
func headReceived(h *fasthttp.RequestHeader) fasthttp.RequestConfig {
	h.Del(declaredHeader) // nobody else says it
	n := h.ContentLength()
	if n > 0 {
		h.Set(declaredHeader, strconv.Itoa(n))
		h.SetContentLength(-1)
	}
	if n > maxJSON && n <= picture.MaxBytes {
		return fasthttp.RequestConfig{ReadTimeout: uploadTime}
	}
	return fasthttp.RequestConfig{}
}

// bodyWaits gives the request its length back, its body being unread.
func bodyWaits(c fiber.Ctx) error {
	h := &c.Request().Header
	if n, err := strconv.Atoi(string(h.Peek(declaredHeader))); err == nil {
		h.Del(declaredHeader)
		h.SetContentLength(n)
	}
	return c.Next()
}

type bodyRead struct{}

// body reads a request's body as it comes, up to a limit.
func body(c fiber.Ctx, limit int) ([]byte, error) {
	declared := c.Request().Header.ContentLength()
	if declared > limit {
		return nil, tooLarge(limit)
	}
	stream := c.Request().BodyStream()
	if stream == nil {
		return c.Request().Body(), nil
	}
	var out bytes.Buffer
	out.Grow(min(max(declared, 0), 64<<10) + bytes.MinRead)
	_, err := out.ReadFrom(io.LimitReader(stream, int64(limit)+1))
	switch {
	case out.Len() > limit:
		return nil, tooLarge(limit)
	case errors.Is(err, os.ErrDeadlineExceeded):
		return nil, problem(http.StatusRequestTimeout, "Too slow", "The upload took too long. Send it again.")
	case err != nil:
		return nil, problem(http.StatusBadRequest, "Cut off", "The upload was cut off. Send it again.")
	}
	c.Locals(bodyRead{}, true)
	return out.Bytes(), nil
}

// lingering ends the connection after an answer that left a body unread: what
// is still on its way would be taken for the next request. The connection
// closes slowly, so that the answer arrives.
func lingering(c fiber.Ctx) error {
	err := c.Next()
	declared := c.Request().Header.ContentLength()
	if read, _ := c.Locals(bodyRead{}).(bool); !read && declared != 0 && declared >= -1 {
		c.Set(fiber.HeaderConnection, "close")
		if slow, ok := c.RequestCtx().Conn().(*slowClosing); ok {
			slow.linger.Store(true)
		}
	}
	return err
}

// Listener makes connections close in a way that lets a refused sender read
// why: a connection that is closed on unread bytes is reset, and the answer
// is lost on the way.
func Listener(l net.Listener) net.Listener { return slowListener{l} }

type slowListener struct{ net.Listener }

func (l slowListener) Accept() (net.Conn, error) {
	c, err := l.Listener.Accept()
	if err != nil {
		return nil, err
	}
	return &slowClosing{Conn: c}, nil
}

type slowClosing struct {
	net.Conn
	linger atomic.Bool
}

// lingerTime and lingerBytes bound what is read to nobody's use.
const (
	lingerTime  = 3 * time.Second
	lingerBytes = 64 << 20
)

func (c *slowClosing) Close() error {
	half, ok := c.Conn.(interface{ CloseWrite() error })
	if !ok || !c.linger.Swap(false) {
		return c.Conn.Close()
	}
	if err := half.CloseWrite(); err != nil {
		return c.Conn.Close()
	}
	go func() {
		_ = c.SetReadDeadline(time.Now().Add(lingerTime))
		_, _ = io.CopyN(io.Discard, c.Conn, lingerBytes)
		_ = c.Conn.Close()
	}()
	return nil
}

func requestID() string { return rand.Text() }

// methodsAt lists the methods of the endpoints that an address fits.
func methodsAt(list []endpoint, path string) string {
	var methods []string
	parts := strings.Split(strings.TrimSuffix(strings.TrimPrefix(path, prefix), "/"), "/")
	for _, e := range list {
		want := strings.Split(e.path, "/")
		fits := len(want) == len(parts)
		for i := 0; fits && i < len(want); i++ {
			fits = strings.HasPrefix(want[i], ":") || want[i] == parts[i]
		}
		if fits && !slices.Contains(methods, e.method) {
			methods = append(methods, e.method)
		}
	}
	slices.Sort(methods)
	return strings.Join(methods, ", ")
}
