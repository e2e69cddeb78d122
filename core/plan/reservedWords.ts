const cpp =
  'alignas alignof and asm auto bitand bitor bool break case catch char class compl concept const consteval constexpr constinit continue decltype default delete do double else enum explicit export extern false float for friend goto if inline int long mutable namespace new noexcept not nullptr operator or private protected public register requires return short signed sizeof static struct switch template this throw true try typedef typeid typename union unsigned using virtual void volatile while xor'
const python =
  'False None True and as assert async await break class continue def del elif else except finally for from global if import in is lambda nonlocal not or pass raise return try while with yield'
/** Words that every sketch has from its platform. */
const platform = 'HIGH LOW INPUT OUTPUT INPUT_PULLUP LED_BUILTIN byte word boolean setup loop main'

/** Words that no constant can be called: of C++20 and Python 3, and those that a sketch's platform defines. */
export const reservedWords: ReadonlySet<string> = new Set([cpp, python, platform].flatMap((list) => list.split(' ')))
