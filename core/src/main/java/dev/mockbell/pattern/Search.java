package dev.mockbell.pattern;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;

/** Looks for strings that several automata accept, character by character, with a bounded number of tracks kept open. */
final class Search {
    private static final String PREFERRED = "A1a0bBcC23456789 -._/:@+,%#&=!?*()";
    private static final int MOST_TRACKS = 64;
    private static final int LONGEST = 20_000;
    private static final int WALKS = 400;

    private final List<Automaton> automata;

    /** A beginning of a string, kept as its last character and the track before it. */
    private record Track(Track before, int point, List<BitSet> states) {}

    Search(List<Automaton> automata) {
        this.automata = automata;
    }

    List<String> samples(int least, int most, int count) {
        Set<String> found = new LinkedHashSet<>();
        shortest(least, most, Math.max(1, count / 2), found);
        if (!found.isEmpty() && found.size() < count) {
            wander(least, most, count, found);
        }
        return new ArrayList<>(found);
    }

    /** The beginning of what {@link #samples} gives. */
    List<String> nearest(int least, int most, int count) {
        Set<String> found = new LinkedHashSet<>();
        shortest(least, most, Math.max(1, count / 2), found);
        return new ArrayList<>(found);
    }

    private Track start() {
        return new Track(null, -1, automata.stream().map(Automaton::first).toList());
    }

    private boolean accepts(Track track) {
        for (int i = 0; i < automata.size(); i++) {
            if (!automata.get(i).accepts(track.states().get(i))) {
                return false;
            }
        }
        return true;
    }

    /** Grows all tracks by one character a round; tracks in the same states count as one. */
    private void shortest(int least, int most, int count, Set<String> found) {
        List<Track> open = List.of(start());
        for (int length = 0; length <= Math.min(most, LONGEST) && !open.isEmpty(); length++) {
            if (length >= least) {
                for (Track track : open) {
                    if (accepts(track)) {
                        found.add(text(track));
                    }
                }
                if (found.size() >= count || length > least + 40 && !found.isEmpty()) {
                    return;
                }
            }
            Map<List<BitSet>, Track> grown = new LinkedHashMap<>();
            for (Track track : open) {
                for (int point : points(track, 3)) {
                    Track longer = step(track, point);
                    if (longer != null && grown.size() < MOST_TRACKS) {
                        grown.putIfAbsent(longer.states(), longer);
                    }
                }
            }
            open = List.copyOf(grown.values());
        }
    }

    /** Walks at random, the same way each time, for strings with more variety than the shortest ones. */
    private void wander(int least, int most, int count, Set<String> found) {
        Random random = new Random(7);
        int longest = (int) Math.min(most, Math.min(LONGEST, (long) least + 40));
        for (int walk = 0; walk < WALKS && found.size() < count; walk++) {
            Track track = start();
            for (int length = 0; length <= longest && track != null; length++) {
                if (length >= least && accepts(track) && random.nextInt(4) != 0) {
                    found.add(text(track));
                    break;
                }
                List<Integer> points = points(track, 40);
                track = points.isEmpty() ? null : step(track, points.get(random.nextInt(points.size())));
            }
        }
    }

    private Track step(Track track, int point) {
        List<BitSet> states = new ArrayList<>(automata.size());
        for (int i = 0; i < automata.size(); i++) {
            BitSet after = automata.get(i).after(track.states().get(i), point);
            if (after.isEmpty()) {
                return null;
            }
            states.add(after);
        }
        return new Track(track, point, states);
    }

    /** Characters that lead on: for each way of reading on in all automata at once, the most readable few. */
    private List<Integer> points(Track track, int each) {
        List<CharSet> sets = automata.get(0).choices(track.states().get(0));
        for (int i = 1; i < automata.size(); i++) {
            List<CharSet> both = new ArrayList<>();
            for (CharSet mine : automata.get(i).choices(track.states().get(i))) {
                for (CharSet set : sets) {
                    CharSet common = set.and(mine);
                    if (!common.isEmpty() && both.size() < 200) {
                        both.add(common);
                    }
                }
            }
            sets = both;
        }
        Set<Integer> found = new LinkedHashSet<>();
        for (CharSet set : sets) {
            found.addAll(readable(set, each));
        }
        return new ArrayList<>(found);
    }

    private static List<Integer> readable(CharSet set, int most) {
        List<Integer> found = new ArrayList<>();
        for (int i = 0; i < PREFERRED.length() && found.size() < most; i++) {
            if (set.contains(PREFERRED.charAt(i))) {
                found.add((int) PREFERRED.charAt(i));
            }
        }
        if (found.isEmpty()) {
            CharSet visible = set.and(CharSet.range(0x21, 0x7E));
            CharSet legal = set.and(CharSet.range(0x20, 0xD7FF).or(CharSet.range(0xE000, 0xFFFD)))
                    .or(set.and(CharSet.of('\t', '\n', '\r')));
            CharSet best =
                    visible.isEmpty() ? legal.isEmpty() ? set.and(CharSet.range(0x10000, 0x10FFFF)) : legal : visible;
            found.addAll(best.firsts(most));
        }
        return found;
    }

    private static String text(Track track) {
        List<Integer> points = new ArrayList<>();
        for (Track at = track; at.before() != null; at = at.before()) {
            points.add(at.point());
        }
        Collections.reverse(points);
        StringBuilder text = new StringBuilder();
        points.forEach(text::appendCodePoint);
        return text.toString();
    }
}
