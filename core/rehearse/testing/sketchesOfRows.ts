/** Sketches over rows that grow, pairs, orders and lists of any length, a page each: includes, what stands before, what is done. */
const once: readonly (readonly [title: string, includes: string, before: string, body: string])[] = [
  [
    'rows that grow',
    'vector',
    `std::vector<int> all; long sum(const std::vector<int> &of) { long s = 0; for (int one : of) s += one; return s; } size_t longer(std::vector<int> of) { of.push_back(7); of[0] = 99; return of.size(); }`,
    `Serial.println(all.empty()); for (int i = 0; i < 20; i++) all.push_back(i * i); Serial.println((int)all.size()); Serial.println(all[7]); Serial.println(all.front() + all.back()); Serial.println(sum(all)); Serial.println((int)longer(all)); Serial.println(all[0]); all.pop_back(); all.resize(3); Serial.println(sum(all)); all.resize(5, 4); Serial.println(sum(all)); all.clear(); Serial.println((int)all.size());`,
  ],
  [
    'rows that begin with something',
    'vector',
    `struct Step { int pin; float share; }; std::vector<Step> steps = {{3, 0.5f}, {5, 0.25f}}; std::vector<int> same(4, 6), none(3); std::vector<std::vector<int>> grid = {{1, 2}, {3}}; std::vector<String> words{"up", "down"};`,
    `steps.push_back({6, 1.5f}); float s = 0; for (const auto &one : steps) s += one.share * one.pin; Serial.println(s); for (auto &one : steps) one.pin *= 10; Serial.println(steps[2].pin); for (Step one : steps) one.pin = 0; Serial.println(steps[1].pin); Serial.println(same[3] + none[2]); grid[1].push_back(9); Serial.println(grid[1][1] + (int)grid[0].size()); for (auto &row : grid) for (auto one : row) { Serial.print(one); Serial.print(' '); } Serial.println(); words[0] += "!"; for (auto &w : words) Serial.println(w); std::vector<int> copy = same; copy[0] = 1; Serial.println(same[0]);`,
  ],
  [
    'rows walked and cut',
    'vector',
    `std::vector<int> row{5, 6, 7, 8, 9};`,
    `for (std::vector<int>::iterator it = row.begin(); it != row.end(); it++) { if (*it == 7) *it = 70; } Serial.println(row[2]); row.erase(row.begin() + 1); Serial.println(row[1]); row.insert(row.begin() + 2, 33); for (int one : row) { Serial.print(one); Serial.print(','); } Serial.println(); row.erase(row.begin() + 1, row.begin() + 3); Serial.println((int)row.size()); Serial.println(row.at(1)); for (std::vector<int>::size_type i = 0; i < row.size(); i++) Serial.println(row[i]); Serial.println((int)(row.end() - row.begin()));`,
  ],
  [
    'pairs by their keys',
    'map',
    `std::map<int, String> names; std::map<String, int> counts; std::map<int, int> table = {{3, 30}, {1, 10}, {2, 20}};`,
    `names[4] = "four"; names[2] = "two"; names[4] += "!"; for (auto &one : names) { Serial.print(one.first); Serial.println(one.second); } counts["a"]++; counts["b"] += 5; counts["a"]++; Serial.println(counts["a"] * 10 + counts["b"]); Serial.println((int)counts.count("c")); Serial.println((int)table.size()); for (const auto &one : table) Serial.println(one.second); auto found = table.find(2); if (found != table.end()) Serial.println(found->second); table.erase(2); Serial.println(table.find(2) == table.end()); Serial.println((int)table.size()); table.clear(); Serial.println(table.empty());`,
  ],
  [
    'order',
    'vector>\n#include <algorithm>\n#include <numeric',
    `std::vector<int> all = {5, 3, 9, 1, 7}; int plain[] = {4, 2, 8}; struct Mark { int at; int of; }; std::vector<Mark> marks = {{1, 30}, {2, 10}, {3, 20}};`,
    `std::sort(all.begin(), all.end()); for (int one : all) Serial.print(one); Serial.println(); std::sort(all.begin(), all.end(), [](int a, int b) { return a > b; }); for (int one : all) Serial.print(one); Serial.println(); std::sort(plain, plain + 3); Serial.println(plain[0] * 100 + plain[2]); std::sort(marks.begin(), marks.end(), [](const Mark &a, const Mark &b) { return a.of < b.of; }); for (auto &m : marks) Serial.print(m.at); Serial.println(); std::reverse(all.begin(), all.end()); Serial.println(all[0]); Serial.println((int)(std::find(all.begin(), all.end(), 7) - all.begin())); Serial.println(std::find(all.begin(), all.end(), 4) == all.end()); Serial.println(std::accumulate(all.begin(), all.end(), 0)); Serial.println(*std::max_element(all.begin(), all.end()) - *std::min_element(plain, plain + 3)); int least = 4; Serial.println((int)std::count_if(all.begin(), all.end(), [least](int one) { return one > least; }));`,
  ],
  [
    'one behind the other, and one on the other',
    'queue>\n#include <stack>\n#include <set',
    `struct Job { int pin; String what; }; std::queue<Job> jobs; std::stack<int> back; std::set<int> seen;`,
    `jobs.push({4, "on"}); jobs.push({5, "off"}); Serial.println((int)jobs.size()); while (!jobs.empty()) { Job now = jobs.front(); jobs.pop(); Serial.print(now.pin); Serial.println(now.what); } for (int i = 0; i < 4; i++) back.push(i); back.pop(); Serial.println(back.top()); for (int one : {5, 1, 5, 3, 1}) seen.insert(one); for (int one : seen) Serial.print(one); Serial.println(); Serial.println((int)seen.count(3) + (int)seen.count(4)); seen.erase(3); Serial.println((int)seen.size());`,
  ],
  [
    'classes that can be walked, and take lists',
    'initializer_list',
    `class Bag { int kept[8]; int many = 0; public: Bag(std::initializer_list<int> all) { for (int one : all) kept[many++] = one; } int *begin() { return kept; } int *end() { return kept + many; } }; struct Down { int at; int operator*() { return at; } bool operator!=(const Down &o) { return at != o.at; } Down &operator++() { at--; return *this; } }; struct From { int top; Down begin() { return {top}; } Down end() { return {0}; } };`,
    `Bag bag = {4, 5, 6}; for (int one : bag) Serial.print(one); Serial.println(); for (int &one : bag) one *= 2; Bag other{9}; for (auto one : other) Serial.println(one); int s = 0; for (const auto &one : bag) { if (one == 10) continue; s += one; } Serial.println(s); From three{3}; for (int n : three) { Serial.print(n); if (n == 2) break; } Serial.println();`,
  ],
]

export const sketchesOfRows: readonly (readonly [string, string])[] = once.map(([title, includes, before, body]) => [
  title,
  `#include <${includes}>\n${before}\nvoid setup() {\n  ${body}\n}\nvoid loop() { delay(900); }`,
])
