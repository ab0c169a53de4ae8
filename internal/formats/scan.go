package formats

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"maps"
	"slices"
	"sync"

	"github.com/santhosh-tekuri/jsonschema/v6"

	published "umberfrost/docs/formats"
)

// span is where a value stands in a file, from its first byte to behind its last.
type span struct{ from, to int64 }

// scanned is what one look over a file tells, before anything of it is held.
type scanned struct {
	version int             // 0: it says none
	lists   map[string]span // by path: the long lists
}

// longLists are the lists that grow with a shop, by their path, with where the published schemas describe one of their
// items. They are looked at item by item.
var longLists = map[string]string{
	"/products": "#/properties/products/items", "/recipes": "#/properties/recipes/items", "/instruments": "#/properties/instruments/items",
	"/order": "#/properties/order/items", "/pins": "#/properties/pins/items", "/begun": "#/properties/begun/items",
	"/sittings": "#/properties/sittings/items", "/log": "#/properties/log/items", "/snapshots": "#/properties/snapshots/items",
	"/shop/readings": "#/$defs/shop/properties/readings/items",
}

// What no file needs more of; a list that the schemas bound has its own.
const (
	mostDepth      = 60
	mostUnknown    = 1000 // items of a list that no schema names
	mostKeys       = 20_000
	mostValues     = 500_000 // in one item of a long list
	mostHeadValues = 2_000_000
	askEvery       = 10_000 // tokens, whether anybody still waits
)

// scan looks over a file once: whether it is JSON that holds no more of anything than a file may, and where its long
// lists are. It fails with *Invalid, or when the context ends, without having read further than to the first thing that
// is too much.
func scan(ctx context.Context, from io.Reader) (*scanned, error) {
	s := &scanner{ctx: ctx, decoder: json.NewDecoder(from), found: &scanned{lists: make(map[string]span)}}
	if err := s.value("", "", 0); err != nil {
		return nil, err
	}
	if _, err := s.decoder.Token(); err != io.EOF {
		return nil, invalid("", "it is not JSON: something follows its end")
	}
	return s.found, nil
}

type scanner struct {
	ctx     context.Context
	decoder *json.Decoder
	found   *scanned
	tokens  int
	values  int // in the item of a long list, or in the rest
	in      int // how deep in a long list
}

func (s *scanner) token() (json.Token, error) {
	if s.tokens++; s.tokens%askEvery == 0 && s.ctx.Err() != nil {
		return nil, s.ctx.Err()
	}
	token, err := s.decoder.Token()
	if err != nil {
		return nil, invalid("", "it is not JSON: %v", err)
	}
	return token, nil
}

// value looks over one value: at a path, under a name.
func (s *scanner) value(path, name string, depth int) error {
	token, err := s.token()
	if err != nil {
		return err
	}
	most := mostHeadValues
	if s.in > 0 {
		most = mostValues
	}
	if s.values++; s.values > most {
		return invalid(path, "it holds more than %d values", most)
	}
	if depth > mostDepth {
		return invalid("", "it is nested deeper than %d", mostDepth)
	}
	switch token {
	case json.Delim('{'):
		return s.object(path, depth)
	case json.Delim('['):
		return s.list(path, name, depth)
	}
	if number, is := token.(float64); is && path == "/version" {
		s.found.version = int(number)
	}
	return nil
}

func (s *scanner) object(path string, depth int) error {
	for n := 0; s.decoder.More(); n++ {
		if n >= mostKeys {
			return invalid(path, "it has more than %d fields", mostKeys)
		}
		key, err := s.token()
		if err != nil {
			return err
		}
		name, _ := key.(string)
		if err := s.value(path+"/"+name, name, depth+1); err != nil {
			return err
		}
	}
	_, err := s.token()
	return err
}

func (s *scanner) list(path, name string, depth int) error {
	begins := s.decoder.InputOffset() - 1
	most, known := mostItems()[name]
	if !known {
		most = mostUnknown
	}
	_, long := longLists[path]
	outside := s.values
	for n := 0; s.decoder.More(); n++ {
		if n >= most {
			return invalid(path, "it has more than the %d items that are accepted", most)
		}
		if long {
			s.values, s.in = 0, s.in+1
		}
		at := path
		if !long {
			at = fmt.Sprintf("%s/%d", path, n)
		}
		if err := s.value(at+"/", name+"[]", depth+1); err != nil {
			return err
		}
		if long {
			s.in--
		}
	}
	if _, err := s.token(); err != nil {
		return err
	}
	if long {
		s.values, s.found.lists[path] = outside, span{begins, s.decoder.InputOffset()}
	}
	return nil
}

// mostItems is how many items each list may have by the published schemas, by its name; the items of a list that are
// lists themselves have its name with [] behind it.
var mostItems = sync.OnceValue(func() map[string]int {
	most := make(map[string]int)
	for _, data := range [][]byte{published.ScheduleSchema1, published.ScheduleSchema2, published.ScheduleSchema3,
		published.ScheduleSchema} {
		var schema any
		if json.Unmarshal(data, &schema) == nil {
			listsIn(schema, "", most)
		}
	}
	return most
})

func listsIn(schema any, name string, most map[string]int) {
	node, _ := schema.(map[string]any)
	if items, is := node["maxItems"].(float64); is {
		most[name] = max(most[name], int(items))
	}
	for _, group := range []string{"properties", "$defs"} {
		named, _ := node[group].(map[string]any)
		for inner, one := range named {
			listsIn(one, inner, most)
		}
	}
	listIf(node["items"], name+"[]", most)
	listIf(node["additionalProperties"], name+"[]", most)
}

func listIf(schema any, name string, most map[string]int) {
	if node, is := schema.(map[string]any); is {
		listsIn(node, name, most)
	}
}

// itemSchema is what a published version says of one item of a long list.
func itemSchema(version int, list string) (*jsonschema.Schema, error) {
	key := fmt.Sprint(version, list)
	if made, is := itemSchemas.Load(key); is {
		return made.(*jsonschema.Schema), nil
	}
	data := [][]byte{published.ScheduleSchema1, published.ScheduleSchema2, published.ScheduleSchema3, published.ScheduleSchema}[version-1]
	name := fmt.Sprintf("schedule-%d.schema.json", version)
	compiler, err := compilerOf(name, data)
	if err != nil {
		return nil, err
	}
	schema, err := compiler.Compile(name + longLists[list])
	if err == nil {
		itemSchemas.Store(key, schema)
	}
	return schema, err
}

var itemSchemas sync.Map

// headOf is a file without the items of its long lists.
func headOf(from io.ReaderAt, size int64, found *scanned) ([]byte, error) {
	var out bytes.Buffer
	lists := slices.SortedFunc(maps.Values(found.lists), func(a, b span) int { return cmp.Compare(a.from, b.from) })
	rest := int64(0)
	for _, list := range append(lists, span{size, size}) {
		if _, err := io.Copy(&out, io.NewSectionReader(from, rest, list.from-rest)); err != nil {
			return nil, err
		}
		if rest = list.to; list.from < size {
			out.WriteString("[]")
		}
	}
	return out.Bytes(), nil
}
