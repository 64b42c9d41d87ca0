package server

import (
	"sync"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"
)

// Wrong sign-ins slow the next ones down: of an account at once, of an address later, since many people may share one.
// Those under way count as wrong until they are right.
const (
	freeTries        = 5  // of an account
	freeAddressTries = 30 // of an address, for names that never were right from there
	forgetTries      = 15 * time.Minute
	longestPause     = 30 * time.Second
	mostTries        = 10_000 // names and addresses that are remembered
)

// tries remembers wrong sign-ins.
type tries struct {
	mutex sync.Mutex
	wrong *lru.Cache[string, *wrong]
	right *lru.Cache[string, bool] // name and address that belong together
}

type wrong struct {
	count int
	last  time.Time
}

func newTries() *tries {
	of, _ := lru.New[string, *wrong](mostTries) // its error is a size below 1
	right, _ := lru.New[string, bool](mostTries)
	return &tries{wrong: of, right: right}
}

// begin counts a try, and refuses it when too many were wrong lately.
func (t *tries) begin(name, address string, now time.Time) error {
	t.mutex.Lock()
	defer t.mutex.Unlock()
	account, place := t.entry("name "+name, now), t.entry("address "+address, now)
	wait := time.Duration(0)
	// somebody else's wrong tries do not lock an account out of where it is used
	if known := t.right.Contains(name + " " + address); !known {
		wait = max(account.wait(freeTries, now), place.wait(freeAddressTries, now))
	} else {
		wait = account.wait(4*freeTries, now)
	}
	if wait > 0 {
		return tooManyTries.With(int(wait.Seconds()) + 1)
	}
	account.count, account.last = account.count+1, now
	place.count, place.last = place.count+1, now
	return nil
}

// wasRight takes a try back that was no wrong one.
func (t *tries) wasRight(name, address string) {
	t.mutex.Lock()
	defer t.mutex.Unlock()
	t.wrong.Remove("name " + name)
	if place, some := t.wrong.Get("address " + address); some {
		place.count--
	}
	t.right.Add(name+" "+address, true)
}

func (t *tries) entry(key string, now time.Time) *wrong {
	w, some := t.wrong.Get(key)
	if !some || now.Sub(w.last) > forgetTries {
		w = &wrong{}
		t.wrong.Add(key, w)
	}
	return w
}

// wait returns how long to wait before another try: a second after the free ones, and twice as long after each more.
func (w *wrong) wait(free int, now time.Time) time.Duration {
	if w.count < free {
		return 0
	}
	pause := min(time.Second<<min(w.count-free, 10), longestPause)
	return max(w.last.Add(pause).Sub(now), 0)
}
