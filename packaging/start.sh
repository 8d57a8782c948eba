# How Java is started, from a checkout and from a package alike. To be read by a shell.

options() {
  # The client compiler alone starts the window sooner; load needs the server compiler. In the window no collection may
  # take long: the plain collector stops it for most of a second once 300 MB are held, and a young generation of the usual
  # size for as long as it takes to copy a large message that was just opened.
  local what=${1:-desktop}
  # who leads workers makes no load, and what it compiles well takes its workers' time where they share a machine
  [[ "$what" == load && " $* " == *" --workers"* ]] && what=lead
  case "$what" in
    mock | tap | proxy)
      # The server compiler with its inlining and its work on loops kept within bounds is done in a third of the time and
      # makes code that is as fast here: a mock is warm after two or three seconds of load instead of ten.
      printf '%s\n' -XX:+UseG1GC -XX:FreqInlineSize=100 -XX:MaxInlineLevel=8 -XX:LoopUnrollLimit=8 -XX:-UseSuperWord \
        -XX:LoopOptsCount=8
      ;;
    load | worker)
      # Every pause of the collector is in the times: room for what is young makes pauses rare, and memory is not given back
      # between getting up to speed and the run.
      printf '%s\n' -XX:+UseG1GC -Xms512m -Xmn256m -XX:MaxTenuringThreshold=2
      ;;
    bench | demo | shots) printf '%s\n' -XX:+UseG1GC ;;
    desktop)
      printf '%s\n' -XX:TieredStopAtLevel=1 -XX:+UseG1GC -XX:MaxGCPauseMillis=20 -XX:+ExplicitGCInvokesConcurrent \
        -XX:+UnlockExperimentalVMOptions -XX:G1NewSizePercent=2 -XX:G1MaxNewSizePercent=8
      ;;
    *) printf '%s\n' -XX:TieredStopAtLevel=1 -XX:+UseSerialGC ;;
  esac
  # the archive where it was made for: moved elsewhere in memory, as is usual, all of its 130 MB are written to
  # looking for buffers that nobody gives back is for the tests: it takes a stack trace of every hundredth
  printf '%s\n' -Xshare:auto -XX:+UnlockDiagnosticVMOptions -XX:ArchiveRelocationMode=0 -Dfile.encoding=UTF-8 \
    -Dio.netty.leakDetection.level=disabled
}

# What is typed reaches Java as the locale says; one that knows ASCII alone would turn the rest into question marks.
readable() {
  case "$(locale charmap 2>/dev/null || echo unknown)" in
    ANSI_X3.4-1968 | US-ASCII | 646 | unknown) export LC_ALL=C.UTF-8 ;;
  esac
}

# A class-data archive halves the start. Of its list some are left out: JDK 17 crashes while dumping lambdas of the two kinds
# that the argument parser has in classes of an old form. It is there whole or not at all, whoever else makes one.
# archive JAVA CLASSPATH FILE
archive() {
  local java=$1 path=$2 jsa=$3 made=$3.$$ temporary
  local flags=(-XX:TieredStopAtLevel=1 -XX:+UseG1GC -Dfile.encoding=UTF-8 -XX:ErrorFile=/dev/null)
  temporary=$(mktemp -d)
  rm -f "$jsa"
  if "$java" "${flags[@]}" -Djava.io.tmpdir="$temporary" -XX:DumpLoadedClassList="$made.all" -cp "$path" \
    dev.mockbell.app.WarmUp >/dev/null 2>&1; then
    if archived "$java" "$path" "$made" '^@lambda-proxy.*picocli/CommandLine$I[A-Za-z]*Handler' ||
      archived "$java" "$path" "$made" '^@lambda-proxy'; then
      mv -f "$made" "$jsa"
    fi
  fi
  rm -rf "$made" "$made.lst" "$made.all" "$temporary"
}

# archived JAVA CLASSPATH MADE PATTERN: the archive of what is listed, but for lines that match
archived() {
  grep -v "$4" "$3.all" >"$3.lst" &&
    "$1" "${flags[@]}" -Xshare:dump -XX:SharedClassListFile="$3.lst" -XX:SharedArchiveFile="$3" -cp "$2" >/dev/null 2>&1
}

# The jars of a folder, as a class path.
jars() {
  local path=""
  for jar in "$1"/*.jar; do path=$path:$jar; done
  printf '%s' "${path#:}"
}
