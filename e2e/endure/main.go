// Endure proves that nothing acknowledged is lost or doubled: the server killed under a burst of posts, the
// database stopped under load, and two servers on one database. It takes a quarter of an hour and is no part of
// the tests: make endure runs it, and prints what came of it.
package main

import (
	"context"
	"flag"
	"fmt"
	"log"
	"math/rand/v2"
	"os"
	"sync"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/localpg"
)

func main() {
	program := flag.String("program", "bin/umberfrost", "the built program")
	kills := flag.Int("kills", 15, "how often the server is killed")
	posts := flag.Int("posts", 2000, "posts in a burst")
	outage := flag.Duration("outage", time.Minute, "how long the database is stopped")
	flag.Parse()
	dir, err := os.MkdirTemp("", "umberfrost-endure-")
	if err != nil {
		log.Fatal(err)
	}
	defer os.RemoveAll(dir)
	os.Chmod(dir, 0o711) // the database server may run as another user
	r := &run{program: *program, dir: dir, posts: *posts}
	for _, part := range []func() error{
		func() error { return r.killed(*kills) },
		func() error { return r.backedUp() },
		func() error { return r.together(*outage) },
	} {
		if err := part(); err != nil {
			log.Fatal(err)
		}
	}
}

type run struct {
	program, dir string
	posts        int
}

// killed kills the server of a shop of one's own in the middle of each burst, with kill -9, and looks afterwards for
// all that it had acknowledged; then it sends everything again, as a device does.
func (r *run) killed(times int) error {
	var shop *client
	said := 0
	for n := range times {
		s, err := r.start("start", "--data", r.dir+"/own", "--throwaway", "--port", "18480")
		if err != nil {
			return err
		}
		if shop == nil {
			if shop, err = begin(s.url); err != nil {
				return err
			}
		}
		shop.url = s.url
		burst := shop.entries(r.posts)
		after := time.Duration(500+rand.IntN(6000)) * time.Millisecond
		killing := time.AfterFunc(after, s.kill)
		acknowledged := shop.send(burst, 16)
		killing.Stop()
		s.kill()
		again, err := r.start("start", "--data", r.dir+"/own", "--throwaway", "--port", "18480")
		if err != nil {
			return err
		}
		shop.url = again.url
		kept, err := shop.kept()
		if err != nil {
			return err
		}
		lost, doubled := compare(acknowledged, kept)
		if left := len(shop.send(burst, 16)); left != len(burst) {
			return fmt.Errorf("kill %d: sent again, only %d of %d were acknowledged", n+1, left, len(burst))
		}
		if kept, err = shop.kept(); err != nil {
			return err
		}
		said += len(burst)
		lostThen, doubledThen := compare(ids(burst), kept)
		fmt.Printf("kill -9 no. %2d after %4d ms: %4d of %d acknowledged before it; lost %d, doubled %d; all sent again: lost %d, "+
			"doubled %d, %d kept in all\n",
			n+1, after.Milliseconds(), len(acknowledged), len(burst), lost, doubled, lostThen, doubledThen, len(kept))
		if lost+doubled+lostThen+doubledThen > 0 || len(kept) != said {
			return fmt.Errorf("something acknowledged was lost or doubled")
		}
		if err := again.stop(); err != nil {
			return err
		}
	}
	return nil
}

// backedUp makes a backup of the shop that was killed so often while a burst comes in, and restores it into another: what
// was acknowledged before it began is there, and nothing twice.
func (r *run) backedUp() error {
	s, err := r.start("start", "--data", r.dir+"/own", "--throwaway", "--port", "18480")
	if err != nil {
		return err
	}
	defer s.kill()
	shop, err := open(s.url)
	if err != nil {
		return err
	}
	before, err := shop.kept()
	if err != nil {
		return err
	}
	acknowledged := shop.send(shop.entries(r.posts), 16)
	var during sync.WaitGroup
	during.Go(func() { shop.send(shop.entries(r.posts), 16) })
	file := r.dir + "/shop.backup"
	said, err := r.do("backup", file, "--data", r.dir+"/own", "--throwaway")
	during.Wait()
	if err != nil {
		return err
	}
	fmt.Print(said)
	if _, err = r.do("restore", file, "--data", r.dir+"/restored", "--throwaway"); err != nil {
		return err
	}
	again, err := r.start("start", "--data", r.dir+"/restored", "--throwaway", "--port", "18480")
	if err != nil {
		return err
	}
	defer again.kill()
	shop.url = again.url
	kept, err := shop.kept()
	if err != nil {
		return err
	}
	for id := range before {
		acknowledged[id] = true
	}
	lost, doubled := compare(acknowledged, kept)
	fmt.Printf("backed up while posts came in, restored: of %d acknowledged before it lost %d, doubled %d; %d kept in all\n",
		len(acknowledged), lost, doubled, len(kept))
	if lost+doubled > 0 {
		return fmt.Errorf("the backup does not hold what was acknowledged before it began")
	}
	return nil
}

// together lets two servers on one database take the same posts at the same time, and stops the database under them.
func (r *run) together(outage time.Duration) error {
	ctx := context.Background()
	database, err := localpg.Start(ctx, r.dir+"/pg", localpg.Options{})
	if err != nil {
		return err
	}
	defer func() { database.Stop() }()
	if err := database.CreateDatabase(ctx, "shop", ""); err != nil {
		return err
	}
	var servers [2]*server
	for i := range servers {
		if servers[i], err = r.start("serve", "--database-url", database.URL("shop"), "--listen",
			fmt.Sprintf("127.0.0.1:%d", 18470+i)); err != nil {
			return err
		}
		defer servers[i].kill()
	}
	first, err := open(servers[0].url)
	if err != nil {
		return err
	}
	second := *first
	second.url = servers[1].url
	both := func(burst []entry) map[uuid.UUID]bool {
		var acknowledged [2]map[uuid.UUID]bool
		var sending sync.WaitGroup
		sending.Go(func() { acknowledged[0] = first.send(burst, 8) })
		sending.Go(func() { acknowledged[1] = second.send(burst, 8) })
		sending.Wait()
		for id := range acknowledged[1] {
			acknowledged[0][id] = true
		}
		return acknowledged[0]
	}
	burst := first.entries(r.posts)
	report := func(what string, acknowledged map[uuid.UUID]bool, total int) error {
		kept, err := first.kept()
		if err != nil {
			return err
		}
		lost, doubled := compare(acknowledged, kept)
		fmt.Printf("%s: %d of %d acknowledged; lost %d, doubled %d; %d kept in all\n", what, len(acknowledged), len(burst), lost, doubled,
			len(kept))
		if lost+doubled > 0 || (total > 0 && len(kept) != total) {
			return fmt.Errorf("something acknowledged was lost or doubled")
		}
		return nil
	}
	if err := report("two servers, each post sent to both", both(burst), r.posts); err != nil {
		return err
	}

	burst = first.entries(r.posts)
	stopped := make(chan error, 1)
	time.AfterFunc(3*time.Second, func() {
		err := database.Stop()
		time.Sleep(outage)
		if err == nil {
			err = database.Resume(ctx)
		}
		stopped <- err
	})
	acknowledged := both(burst)
	if err := <-stopped; err != nil {
		return err
	}
	if err := report(fmt.Sprintf("database stopped %s under both", outage), acknowledged, 0); err != nil {
		return err
	}
	return report("all sent again", both(burst), 2*r.posts)
}

// compare counts what was acknowledged and is not kept, and what is kept more than once.
func compare(acknowledged map[uuid.UUID]bool, kept map[uuid.UUID]int) (lost, doubled int) {
	for id := range acknowledged {
		if kept[id] == 0 {
			lost++
		}
	}
	for _, times := range kept {
		if times > 1 {
			doubled++
		}
	}
	return lost, doubled
}
