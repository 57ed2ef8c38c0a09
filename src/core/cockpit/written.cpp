// SPDX-License-Identifier: GPL-3.0-or-later
#include "cockpit/written.h"
#include "cockpit/controls.h"
#include "reading/control_reader.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::cockpit {
namespace {
using document::Member;
using document::Node;

Node made(std::string text) {
    Node n;
    n.kind = Node::Kind::text;
    n.text = std::move(text);
    return n;
}
Node made(bool flag) {
    Node n;
    n.kind = Node::Kind::boolean;
    n.boolean = flag;
    return n;
}
Node made(const std::vector<std::string>& texts) {
    Node n;
    n.kind = Node::Kind::array;
    for (const auto& t : texts)
        n.items.push_back(made(t));
    return n;
}
Node table() {
    Node n;
    n.kind = Node::Kind::table;
    return n;
}
Node array() {
    Node n;
    n.kind = Node::Kind::array;
    return n;
}
void put(Node& into, std::string key, Node value) {
    into.members.push_back({std::move(key), std::move(value)});
}
void put(Node& into, std::string key, const std::string& text) {
    if (!text.empty())
        put(into, std::move(key), made(text));
}
void replace(Node& into, const std::string& key, Node value) {
    if (Node* found = into.find(key))
        *found = std::move(value);
    else
        put(into, key, std::move(value));
}

std::string quoted(std::string_view text) {
    std::string out = "\"";
    for (const char c : text) {
        if (c == '"' || c == '\\')
            out += '\\';
        if (c == '\n')
            out += "\\n";
        else
            out += c;
    }
    return out + "\"";
}
std::string keyed(std::string_view key) {
    const bool bare = !key.empty() && std::all_of(key.begin(), key.end(), [](char c) {
        return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') || c == '_' || c == '-';
    });
    return bare ? std::string(key) : quoted(key);
}
bool tables(const Node& n) {
    return n.kind == Node::Kind::array && !n.items.empty() &&
           std::all_of(n.items.begin(), n.items.end(), [](const Node& i) { return i.kind == Node::Kind::table; });
}
std::string inlined(const Node& n, bool sorted = false) {
    switch (n.kind) {
    case Node::Kind::text:
        return quoted(n.text);
    case Node::Kind::number: {
        const std::string text = fmt::format("{}", n.number);
        return text;
    }
    case Node::Kind::boolean:
        return n.boolean ? "true" : "false";
    case Node::Kind::array: {
        std::string out = "[";
        for (const auto& i : n.items)
            out += (out.size() > 1 ? ", " : "") + inlined(i, sorted);
        return out + "]";
    }
    case Node::Kind::table: {
        std::string out = "{";
        // As they are read again: what stands in one line has no order.
        std::vector<const Member*> members;
        for (const auto& m : n.members)
            members.push_back(&m);
        if (sorted)
            std::sort(members.begin(), members.end(), [](const Member* a, const Member* b) { return a->key < b->key; });
        for (const Member* m : members)
            out += (out.size() > 1 ? ", " : " ") + keyed(m->key) + " = " + inlined(m->value, sorted);
        return out + " }";
    }
    }
    return {};
}
void write(std::string& out, const Node& n, const std::string& path, bool element = false) {
    if (!path.empty()) {
        const bool bare = std::any_of(n.members.begin(), n.members.end(), [](const Member& m) {
            return m.value.kind != Node::Kind::table && !tables(m.value);
        });
        if (element)
            out += "\n[[" + path + "]]\n";
        else if (bare || n.members.empty())
            out += "\n[" + path + "]\n";
    }
    // Short tables in one line: acts and schools' names read best so.
    const auto small = [](const Member& m) {
        return m.key == "do" || m.key == "gear" || m.key == "line" || m.key == "item";
    };
    for (const auto& m : n.members)
        if (m.value.kind != Node::Kind::table && (!tables(m.value) || small(m)))
            out += keyed(m.key) + " = " + inlined(m.value, m.key != "do") + "\n";
    for (const auto& m : n.members) {
        const std::string below = (path.empty() ? "" : path + ".") + keyed(m.key);
        if (m.value.kind == Node::Kind::table)
            write(out, m.value, below);
        else if (tables(m.value) && !small(m))
            for (const auto& i : m.value.items)
                write(out, i, below, true);
    }
}
} // namespace

Node tree(const Action& a) {
    Node n = table();
    if (!a.control.empty())
        put(n, a.control, made(notes::written(a.to)));
    if (!a.engines.empty())
        put(n, "engines", made(a.engines));
    if (a.over > 0)
        put(n, "over", fmt::format("{:.10g} s", a.over));
    if (a.hold)
        put(n, "hold", made(true));
    if (a.lasts)
        put(n, "for", notes::written(*a.lasts));
    if (a.until)
        put(n, "until", notes::written(*a.until));
    if (a.within > 0)
        put(n, "within", fmt::format("{:.10g} s", a.within));
    put(n, "else", a.otherwise);
    return n;
}

namespace {
Node treeOf(const std::vector<Action>& actions) {
    Node n = array();
    for (const auto& a : actions)
        n.items.push_back(tree(a));
    return n;
}
} // namespace

Node tree(const Step& s) {
    Node n = table();
    put(n, "id", s.id);
    put(n, "what", s.what);
    put(n, "set", s.set);
    if (!s.actions.empty())
        put(n, "do", treeOf(s.actions));
    put(n, "at", s.at);
    put(n, "why", s.why);
    put(n, "skipped", s.skipped);
    put(n, "caution", s.caution);
    put(n, "job", s.job);
    for (const auto& [key, flag] :
         {std::pair{"each", s.each}, {"at_end", s.atEnd}, {"branch", s.branch}, {"memory", s.memory}, {"open", s.open}})
        if (flag)
            put(n, key, made(true));
    if (!s.was.empty())
        put(n, "was", made(s.was));
    if (s.origin == Origin::practice)
        put(n, "origin", std::string("practice"));
    if (s.schools.empty())
        return n;
    Node schools = array();
    for (const auto& c : s.schools) {
        Node school = table();
        put(school, "name", c.name);
        put(school, "set", c.set);
        put(school, "gain", c.gain);
        put(school, "risk", c.risk);
        if (c.byNotes)
            put(school, "notes", made(true));
        if (c.actions)
            put(school, "do", treeOf(*c.actions));
        schools.items.push_back(std::move(school));
    }
    put(n, "school", std::move(schools));
    return n;
}

Node tree(const Control& c) {
    Node n = table();
    put(n, "id", c.id);
    put(n, "acts", std::string(rowOf(c.acts).key));
    put(n, "name", c.name);
    put(n, "kind", std::string(keyOf(c.kind)));
    put(n, "each", made(c.each));
    put(n, "who", c.who);
    put(n, "place", fmt::format("{} {:g}", c.panel, c.column));
    put(n, "sense", c.sense);
    put(n, "ends", made(std::vector<std::string>{c.less, c.more}));
    std::vector<std::string> positions;
    for (const auto& p : c.positions)
        positions.push_back(p.is == p.name ? p.is : p.is + "=" + p.name);
    if (!positions.empty())
        put(n, "positions", made(positions));
    put(n, "gate", c.gate);
    if (!c.links.empty())
        put(n, "links", made(c.links));
    put(n, "automatic", c.automatic);
    put(n, "by_hand", c.byHand);
    put(n, "reversed", made(c.reversed));
    if (c.origin == Origin::practice)
        put(n, "origin", std::string("practice"));
    return n;
}

std::string toml(const Node& root) {
    std::string out;
    write(out, root, {});
    return out;
}

std::string expanded(Node root, const TypeNotes& whole) {
    if (Node* type = root.find("type"))
        replace(*type, "drill", made(std::string("whole")));
    Node controls = array();
    for (const auto& c : whole.controls)
        controls.items.push_back(tree(c));
    if (Node* cockpit = root.find("cockpit"))
        std::erase_if(cockpit->members, [](const Member& m) { return m.key == "control"; });
    replace(root, "control", std::move(controls));
    for (const auto& [phase, notes] : whole.phases) {
        Node* into = root.find(keyOf(phase));
        if (!into) {
            put(root, std::string(keyOf(phase)), table());
            into = &root.members.back().value;
        }
        Node steps = array();
        for (const auto& s : notes.steps)
            steps.items.push_back(tree(s));
        std::erase_if(into->members, [](const Member& m) { return m.key == "without"; });
        replace(*into, "step", std::move(steps));
    }
    for (const auto& [emergency, drill] : whole.trouble.drills) {
        Node steps = array();
        for (const auto& s : drill.steps)
            steps.items.push_back(tree(s));
        if (!root.find("trouble"))
            put(root, "trouble", table());
        Node& trouble = *root.find("trouble");
        const std::string key(nameOf(emergency).key);
        if (!trouble.find(key))
            put(trouble, key, table());
        Node& into = *trouble.find(key);
        std::erase_if(into.members, [](const Member& m) { return m.key == "without"; });
        replace(into, "step", std::move(steps));
    }
    return toml(root);
}

} // namespace amber::cockpit
