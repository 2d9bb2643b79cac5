# How better-sqlite3 is compiled here: from its own sources, all of them side by side, and without what nobody asks
# SQLite for.
{
  'targets': [
    {
      'target_name': 'better_sqlite3',
      'includes': ['deps/common.gypi', 'deps/defines.gypi'],
      'defines!': [
        'SQLITE_ENABLE_FTS3',
        'SQLITE_ENABLE_FTS3_PARENTHESIS',
        'SQLITE_ENABLE_FTS4',
        'SQLITE_ENABLE_GEOPOLY',
        'SQLITE_ENABLE_PERCENTILE',
        'SQLITE_ENABLE_RTREE',
      ],
      'sources': ['src/better_sqlite3.cpp', 'deps/sqlite3/sqlite3.c'],
      'include_dirs': ['deps/sqlite3'],
      # -Og takes three fifths of the time of -O1, for queries that are as fast within what can be measured. The search
      # for misleading indentation reads SQLite's one long file again and again, which takes as long as all the rest.
      'cflags_c': ['-std=c99', '-w', '-Wno-misleading-indentation', '-Og'],
      'cflags_cc': ['-std=c++20', '-w', '-Wno-misleading-indentation', '-O1'],
      'conditions': [
        ['OS=="linux"', { 'ldflags': ['-Wl,-Bsymbolic', '-Wl,--exclude-libs,ALL'] }],
        ['OS=="mac"', { 'xcode_settings': { 'CLANG_CXX_LANGUAGE_STANDARD': 'c++20', 'CLANG_CXX_LIBRARY': 'libc++' } }],
      ],
    },
  ],
}
