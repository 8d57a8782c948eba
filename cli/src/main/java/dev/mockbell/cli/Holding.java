package dev.mockbell.cli;

import dev.mockbell.content.Content;
import dev.mockbell.exchange.MessageText;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import dev.mockbell.tap.Held;
import dev.mockbell.tap.Holds;
import dev.mockbell.tap.Remade;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Semaphore;
import java.util.stream.Collectors;

/** Requests that wait for lines on standard input. */
final class Holding {
    private final Holds holds;
    private final Console console;
    private final InputStream input;
    private final Set<Long> told = new HashSet<>();
    private final Semaphore news = new Semaphore(0);

    Holding(Holds holds, Console console) {
        this(holds, console, System.in);
    }

    Holding(Holds holds, Console console, InputStream input) {
        this.holds = holds;
        this.console = console;
        this.input = input;
    }

    /** Holds from now on; lines are read on a thread of their own. */
    void begin(String condition) {
        holds.listen(news::release);
        Thread telling = new Thread(this::tellAll, "hold-lines");
        telling.setDaemon(true);
        telling.start();
        holds.set(Optional.of(new Holds.Rule(Holds.Side.REQUESTS, condition, false)));
        Thread reading = new Thread(this::read, "hold-commands");
        reading.setDaemon(true);
        reading.start();
    }

    /** On a thread of its own: who does not read what waits holds up nothing else. */
    private void tellAll() {
        try {
            while (true) {
                news.acquire();
                news.drainPermits();
                tell();
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private void tell() {
        List<Held> waiting = holds.waiting();
        told.retainAll(waiting.stream().map(Held::number).collect(Collectors.toSet()));
        for (Held held : waiting) {
            if (told.add(held.number())) {
                console.line("HELD " + held.number() + " "
                        + (held.operation().isEmpty() ? held.request().title() : held.operation()));
            }
        }
    }

    private void read() {
        try (BufferedReader lines = new BufferedReader(new InputStreamReader(input, StandardCharsets.UTF_8))) {
            for (String line = lines.readLine(); line != null; line = lines.readLine()) {
                if (!line.isBlank()) {
                    command(line.strip().split("\\s+", 3));
                }
            }
        } catch (IOException e) {
            console.note("The commands cannot be read any more: " + Problem.reason(e));
        }
        holds.set(Optional.empty());
    }

    private void command(String[] words) {
        try {
            if ("off".equals(words[0])) {
                holds.set(Optional.empty());
            } else if ("go".equals(words[0]) && words.length == 2 && "all".equals(words[1])) {
                holds.letAllThrough();
            } else if (words.length >= 2) {
                command(words[0], held(words[1]), words.length == 3 ? words[2] : "");
            } else {
                throw unknown();
            }
        } catch (Problem problem) {
            console.note(problem.getMessage());
        }
    }

    private static Problem unknown() {
        return Problem.input("That is no command", null, "There are go N, drop N, answer N FILE, show N, go all, off.");
    }

    private Held held(String number) {
        return holds.waiting().stream()
                .filter(h -> String.valueOf(h.number()).equals(number))
                .findFirst()
                .orElseThrow(() -> Problem.input("Nothing of that number waits", number, null));
    }

    private void command(String does, Held held, String file) {
        switch (does) {
            case "go" -> held.letThrough();
            case "drop" -> held.drop();
            case "show" ->
                console.line(
                        MessageText.toLookAt(Optional.of(Redactor.of(Map.of()))).body(held.message()));
            case "answer" ->
                held.answer(Remade.of(
                        "HTTP/1.1 200 OK\nContent-Type: "
                                + held.request().header("Content-Type").orElse("text/xml; charset=utf-8"),
                        Content.of(bytes(file))));
            default -> throw unknown();
        }
    }

    private static byte[] bytes(String file) {
        try {
            return Files.readAllBytes(Path.of(file));
        } catch (IOException | InvalidPathException e) {
            throw Problem.of(
                    Problem.Kind.INPUT, "The answer cannot be read: " + Problem.reason(e), file, "Check the path.", e);
        }
    }
}
