// Whole numbers as an eight-bit board calculates with them: an int has sixteen bits, and so has what is promoted to it.
// The compiler of this machine has wider ones; these classes wrap and convert as ISO C++17 says for those widths.
#pragma once
#include <cstdint>
#include <type_traits>

template <int B, bool S> struct Whole {
  int64_t n;
  static constexpr int64_t wrap(int64_t value) {
    uint64_t cut = (uint64_t)value & ((B == 64) ? ~0ULL : ((1ULL << B) - 1));
    if (S && (cut >> (B - 1)) & 1) return (int64_t)(cut | (B == 64 ? 0 : ~((1ULL << B) - 1)));
    return (int64_t)cut;
  }
  constexpr Whole(int64_t value = 0) : n(wrap(value)) {}
  template <int B2, bool S2> constexpr Whole(const Whole<B2, S2> &other) : n(wrap(other.n)) {}
  explicit constexpr operator bool() const { return n != 0; }
};
using I8 = Whole<8, true>;
using U8 = Whole<8, false>;
using I16 = Whole<16, true>;
using U16 = Whole<16, false>;
using I32 = Whole<32, true>;
using U32 = Whole<32, false>;

/** Promotion, then the type in which two are calculated with. */
template <int B, bool S> using Promoted = std::conditional_t<(B < 16), I16, Whole<B, S>>;
template <typename A, typename B> struct Common;
template <int B1, bool S1, int B2, bool S2> struct Common<Whole<B1, S1>, Whole<B2, S2>> {
  static constexpr int most = B1 > B2 ? B1 : B2;
  static constexpr bool isSigned = S1 == S2 ? S1 : (S1 ? B1 > B2 : B2 > B1);
  using type = Whole<most, isSigned>;
};
template <int B1, bool S1, int B2, bool S2> using Both = typename Common<Promoted<B1, S1>, Promoted<B2, S2>>::type;

#define BETWEEN(op)                                                                                              \
  template <int B1, bool S1, int B2, bool S2> Both<B1, S1, B2, S2> operator op(Whole<B1, S1> a, Whole<B2, S2> b) { \
    using T = Both<B1, S1, B2, S2>;                                                                              \
    return T((int64_t)((uint64_t)T(a).n op (uint64_t)T(b).n));                                                   \
  }
#define DIVIDED(op)                                                                                              \
  template <int B1, bool S1, int B2, bool S2> Both<B1, S1, B2, S2> operator op(Whole<B1, S1> a, Whole<B2, S2> b) { \
    using T = Both<B1, S1, B2, S2>;                                                                              \
    return T(T(a).n op T(b).n);                                                                                  \
  }
#define COMPARED(op)                                                                              \
  template <int B1, bool S1, int B2, bool S2> bool operator op(Whole<B1, S1> a, Whole<B2, S2> b) { \
    using T = Both<B1, S1, B2, S2>;                                                               \
    return T(a).n op T(b).n;                                                                      \
  }
BETWEEN(+) BETWEEN(-) BETWEEN(*) BETWEEN(&) BETWEEN(|) BETWEEN(^) DIVIDED(/) DIVIDED(%)
COMPARED(<) COMPARED(>) COMPARED(<=) COMPARED(>=) COMPARED(==) COMPARED(!=)
template <int B1, bool S1, int B2, bool S2> Promoted<B1, S1> operator<<(Whole<B1, S1> a, Whole<B2, S2> by) {
  using T = Promoted<B1, S1>;
  return T(T(a).n << by.n);
}
template <int B1, bool S1, int B2, bool S2> Promoted<B1, S1> operator>>(Whole<B1, S1> a, Whole<B2, S2> by) {
  using T = Promoted<B1, S1>;
  return T(T(a).n >> by.n);
}
template <int B, bool S> Promoted<B, S> operator-(Whole<B, S> a) { return Promoted<B, S>(-Promoted<B, S>(a).n); }
template <int B, bool S> Promoted<B, S> operator+(Whole<B, S> a) { return Promoted<B, S>(a); }
template <int B, bool S> Promoted<B, S> operator~(Whole<B, S> a) { return Promoted<B, S>(~Promoted<B, S>(a).n); }
#define CHANGED(op)                                                                                          \
  template <int B1, bool S1, int B2, bool S2> Whole<B1, S1> &operator op##=(Whole<B1, S1> &a, Whole<B2, S2> b) { \
    a = Whole<B1, S1>(a op b);                                                                               \
    return a;                                                                                                \
  }
CHANGED(+) CHANGED(-) CHANGED(*) CHANGED(&) CHANGED(|) CHANGED(^)
template <int B, bool S> Whole<B, S> operator++(Whole<B, S> &a, int) {
  Whole<B, S> before = a;
  a = Whole<B, S>(a.n + 1);
  return before;
}
template <int B, bool S> Whole<B, S> operator--(Whole<B, S> &a, int) {
  Whole<B, S> before = a;
  a = Whole<B, S>(a.n - 1);
  return before;
}
template <int B1, bool S1, int B2, bool S2> Both<B1, S1, B2, S2> choose(bool asked, Whole<B1, S1> a, Whole<B2, S2> b) {
  using T = Both<B1, S1, B2, S2>;
  return asked ? T(a) : T(b);
}
/** A condition is a number in C++ as soon as one calculates with it. */
inline I16 truth(bool asked) { return I16(asked); }
