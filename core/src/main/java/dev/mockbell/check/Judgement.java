package dev.mockbell.check;

import dev.mockbell.compare.Baseline;
import dev.mockbell.compare.Comparison;
import dev.mockbell.compare.Difference;
import dev.mockbell.compare.LeftOut;
import dev.mockbell.content.Header;
import dev.mockbell.content.Part;
import dev.mockbell.exchange.Message;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.validation.MessageValidator.Breach;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.io.IOException;
import java.io.InputStream;
import java.security.DigestInputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import net.sf.saxon.s9api.XdmItem;
import net.sf.saxon.s9api.XdmValue;
import org.w3c.dom.Document;

/** What each kind of check makes of one answer. */
final class Judgement implements Check.Visitor<CheckResult> {
    /** Texts and lists in a result are shown to people, and kept with each run. */
    private static final int MOST_SHOWN = 2_000;

    private static final int MOST_DIFFERENCES = 5;

    /** A search goes through so much of a message; a larger one is told of. */
    private static final long MOST_SEARCHED = 64L << 20;

    private final Expressions expressions;
    private final Answer answer;
    private final Scope scope;
    private final Optional<Baseline> baseline;
    private final Alike alike;

    Judgement(Expressions expressions, Alike alike, Answer answer, Scope scope, Optional<Baseline> baseline) {
        this.expressions = expressions;
        this.alike = alike;
        this.answer = answer;
        this.scope = scope;
        this.baseline = baseline;
    }

    /** Nothing can be said, so that the opposite does not hold either. */
    private static final class Undecided extends RuntimeException {
        private static final long serialVersionUID = 1L;
        private final transient CheckResult result;

        Undecided(CheckResult result) {
            super(result.found(), null, false, false);
            this.result = result;
        }
    }

    CheckResult of(Check check) {
        try {
            return check.accept(this);
        } catch (Undecided undecided) {
            CheckResult r = undecided.result;
            return CheckResult.failed(check.title(), r.expected(), r.found(), r.where());
        } catch (Problem problem) {
            return CheckResult.failed(check.title(), "", problem.getMessage(), "");
        }
    }

    private static Undecided undecided(Check check, String expected, String why, String where) {
        return new Undecided(CheckResult.failed(check.title(), expected, why, where));
    }

    private XdmValue at(Check check, String path, String expected) {
        if (answer.payload().isEmpty()) {
            throw undecided(check, expected, answer.flaw().orElse("the answer has no body"), path);
        }
        return expressions.evaluate(path, scope);
    }

    private Message response(Check check, String expected) {
        if (answer.exchange().response().isEmpty() || !answer.whole()) {
            throw undecided(check, expected, answer.flaw().orElse("no answer"), "");
        }
        return answer.exchange().response().get();
    }

    private static CheckResult decided(boolean holds, Check check, String expected, String found, String where) {
        return holds
                ? CheckResult.passed(check.title(), found, where)
                : CheckResult.failed(check.title(), expected, found, where);
    }

    private static String shortened(String text) {
        return text.length() > MOST_SHOWN
                ? text.substring(0, MOST_SHOWN) + "… (" + text.length() + " characters)"
                : text;
    }

    @Override
    public CheckResult valid(Check.Valid check) {
        if (answer.flaw().isPresent()) {
            throw undecided(check, "", answer.flaw().get(), "");
        }
        if (answer.outline().isEmpty() || answer.soap().isEmpty()) {
            return CheckResult.passed(check.title(), "no body is due", "");
        }
        List<Breach> breaches = answer.breaches();
        if (breaches.isEmpty()) {
            return CheckResult.passed(check.title(), "", "");
        }
        Breach first = breaches.get(0);
        String more = breaches.size() > 1 ? " and " + (breaches.size() - 1) + " more" : "";
        return CheckResult.failed(check.title(), "", first.text() + more, first.path());
    }

    @Override
    public CheckResult noFault(Check.NoFault check) {
        if (answer.flaw().isPresent()) {
            throw undecided(check, "", answer.flaw().get(), "");
        }
        Optional<Message> came = answer.exchange().response();
        String status = status();
        if (answer.fault().isPresent()) {
            SoapFault fault = answer.fault().get();
            return CheckResult.failed(check.title(), "", fault.title() + ": " + fault.reason(), status);
        }
        return decided(came.filter(Message::isGood).isPresent(), check, "status 2xx", status, "");
    }

    /** The status in words; that there is none where the transport has none. */
    private String status() {
        return answer.exchange().response().filter(m -> !m.hasStatus()).isPresent()
                ? "a message without a status"
                : "status " + answer.exchange().status();
    }

    @Override
    public CheckResult fault(Check.FaultIs check) {
        String expected = check.name().isEmpty() ? "a fault" : "the fault " + check.name();
        if (answer.flaw().isPresent()) {
            throw undecided(check, expected, answer.flaw().get(), "");
        }
        if (answer.fault().isEmpty()) {
            return CheckResult.failed(check.title(), expected, "no fault, " + status(), "");
        }
        SoapFault fault = answer.fault().get();
        String code = fault.code().substring(fault.code().indexOf(':') + 1);
        boolean same = check.name().isEmpty()
                || fault.detail()
                        .map(d -> d.getLocalPart().equals(check.name()))
                        .orElse(false)
                || code.equals(check.name())
                || fault.code().equals(check.name());
        return same
                ? CheckResult.passed(check.title(), fault.reason(), "")
                : CheckResult.failed(check.title(), expected, "the fault " + fault.title(), "");
    }

    @Override
    public CheckResult value(Check.Value check) {
        XdmValue items = at(check, check.path(), check.expected());
        String expected = expressions.fill(check.expected(), scope);
        if (items.size() == 0) {
            throw undecided(check, expected, "nothing at that path", check.path());
        }
        String found = Expressions.text(items);
        boolean same = expected.equals(found) || alike.same(expected, found, check.tolerance());
        String near = check.tolerance().isEmpty() ? "" : " ± " + check.tolerance();
        return decided(same, check, expected + near, found, check.path());
    }

    @Override
    public CheckResult condition(Check.Condition check) {
        if (answer.payload().isEmpty()) {
            throw undecided(check, "", answer.flaw().orElse("the answer has no body"), "");
        }
        boolean holds = expressions.holds(check.xpath(), scope);
        return decided(holds, check, "true", String.valueOf(holds), "");
    }

    @Override
    public CheckResult within(Check.Within check) {
        if (!answer.whole()) {
            throw undecided(check, "", answer.flaw().orElse("no answer"), "");
        }
        double millis = answer.exchange().timing().total() / 1e6;
        String found = Math.round(millis) + " ms";
        return decided(millis <= check.millis(), check, "at most " + check.millis() + " ms", found, "");
    }

    private boolean matches(Check.Match match, String text, String wanted) {
        return switch (match) {
            case IS -> text.strip().equals(wanted.strip());
            case HAS -> text.contains(wanted);
            // by the expression engine, which bounds what a pattern may cost
            case MATCHES ->
                expressions.holds(
                        "matches($text, $pattern, 's')",
                        scope.with("text", text).with("pattern", wanted));
        };
    }

    private String filled(Check.Match match, String wanted) {
        return match == Check.Match.MATCHES ? wanted : expressions.fill(wanted, scope);
    }

    @Override
    public CheckResult text(Check.MessageText check) {
        Message response = response(check, check.wanted());
        if (response.root().content().size() > MOST_SEARCHED) {
            throw undecided(check, "", "the message is too large to be searched", "");
        }
        String text = response.text();
        String wanted = filled(check.match(), check.wanted());
        return decided(
                matches(check.match(), text, wanted),
                check,
                "a message that " + check.match().title() + " " + wanted,
                text.length() <= 200 ? text : "one of " + text.length() + " characters",
                "");
    }

    @Override
    public CheckResult header(Check.HeaderIs check) {
        Message response = response(check, check.wanted());
        List<String> values = response.headers().stream()
                .filter(h -> h.name().equalsIgnoreCase(check.name()))
                .map(Header::value)
                .toList();
        String wanted = filled(check.match(), check.wanted());
        String expected =
                check.match() == Check.Match.IS ? wanted : check.match().title() + " " + wanted;
        if (values.isEmpty()) {
            throw undecided(check, expected, "no such header", check.name());
        }
        String value = String.join(", ", values);
        return decided(matches(check.match(), value, wanted), check, expected, shortened(value), check.name());
    }

    @Override
    public CheckResult status(Check.StatusIs check) {
        if (!response(check, check.wanted()).hasStatus()) {
            throw undecided(check, check.wanted(), "messages of queues have no status", "");
        }
        int status = answer.exchange().status();
        return decided(check.allows(status), check, check.wanted(), String.valueOf(status), "");
    }

    @Override
    public CheckResult size(Check.SizeAtMost check) {
        long size = response(check, "").body().size();
        return decided(size <= check.bytes(), check, "at most " + check.bytes() + " bytes", size + " bytes", "");
    }

    @Override
    public CheckResult baseline(Check.SameAsBaseline check) {
        Optional<Baseline> with = baseline.filter(b -> !b.xml().isEmpty());
        if (with.isEmpty()) {
            throw undecided(check, "", "the case has no baseline; keep an answer as one first", "");
        }
        Optional<Document> now = answer.content().filter(d -> d.getDocumentElement() != null);
        if (now.isEmpty()) {
            throw undecided(check, "", answer.flaw().orElse("the answer has no body"), "");
        }
        Document before = Xml.parse(with.get().xml(), "the baseline", XmlLimits.MESSAGE);
        Comparison comparison = LeftOut.without(before, now.get(), with.get().leftOut(), expressions, scope);
        if (comparison.isSame()) {
            return CheckResult.passed(check.title(), "", "");
        }
        List<Difference> all =
                comparison.differences().stream().filter(d -> d.kind().counts()).toList();
        String first =
                all.stream().limit(MOST_DIFFERENCES).map(Difference::words).collect(Collectors.joining("; "));
        String where = all.stream().map(Difference::path).findFirst().orElse("");
        return CheckResult.failed(check.title(), "", shortened(comparison.words() + ": " + first), where);
    }

    @Override
    public CheckResult present(Check.Present check) {
        int found = at(check, check.path(), "something").size();
        return decided(found > 0, check, "something", found == 0 ? "nothing" : "there", check.path());
    }

    @Override
    public CheckResult count(Check.Count check) {
        int found = at(check, check.path(), check.words()).size();
        return decided(
                found >= check.from() && found <= check.to(),
                check,
                check.words(),
                String.valueOf(found),
                check.path());
    }

    @Override
    public CheckResult each(Check.Each check) {
        XdmValue items = at(check, check.path(), check.holds());
        int position = 0;
        int good = 0;
        int bad = 0;
        for (XdmItem item : items) {
            position++;
            boolean holds = expressions.holds(check.holds(), scope.on(item));
            good += holds ? 1 : 0;
            bad = bad == 0 && !holds ? position : bad;
        }
        boolean all = good == items.size();
        String found = items.size() == 0
                ? "none is there"
                : good + " of " + items.size()
                        + (check.all() && !all ? ", the first that does not is number " + bad : "");
        return decided(
                items.size() > 0 && (check.all() ? all : good > 0),
                check,
                (check.all() ? "every one: " : "one or more: ") + check.holds(),
                found,
                check.path());
    }

    @Override
    public CheckResult items(Check.Items check) {
        XdmValue items = at(check, check.path(), String.join(", ", check.wanted()));
        List<String> found = new ArrayList<>();
        items.forEach(i -> found.add(Expressions.text(i)));
        List<String> wanted =
                check.wanted().stream().map(w -> expressions.fill(w, scope)).toList();
        boolean same = check.inOrder() ? inOrder(wanted, found) : inAnyOrder(wanted, found);
        return decided(
                same,
                check,
                shortened(String.join(", ", wanted)) + (check.inOrder() ? "" : " in any order"),
                shortened(String.join(", ", found)),
                check.path());
    }

    private boolean inOrder(List<String> wanted, List<String> found) {
        boolean same = wanted.size() == found.size();
        for (int i = 0; i < wanted.size() && same; i++) {
            same = alike.same(wanted.get(i), found.get(i), "");
        }
        return same;
    }

    private boolean inAnyOrder(List<String> wanted, List<String> found) {
        List<String> left = new ArrayList<>(found);
        return wanted.size() == found.size()
                && wanted.stream().allMatch(w -> {
                    for (int i = 0; i < left.size(); i++) {
                        if (alike.same(w, left.get(i), "")) {
                            left.remove(i);
                            return true;
                        }
                    }
                    return false;
                });
    }

    @Override
    public CheckResult partCount(Check.PartCount check) {
        int found = response(check, "").attachments().size();
        return decided(
                found == check.count(), check, String.valueOf(check.count()), found == 0 ? "none" : "" + found, "");
    }

    @Override
    public CheckResult part(Check.PartIs check) {
        List<Part> parts = response(check, check.wanted()).attachments();
        Optional<Part> meant = parts.stream()
                .filter(p -> p.id().filter(check.part()::equals).isPresent())
                .findFirst()
                .or(() -> check.part().matches("[1-9]\\d{0,5}")
                        ? parts.stream().skip(Long.parseLong(check.part()) - 1).findFirst()
                        : Optional.empty());
        if (meant.isEmpty()) {
            throw undecided(check, check.wanted(), "no such part; there are " + parts.size(), check.part());
        }
        String found = switch (check.fact()) {
            case TYPE -> meant.get().header("Content-Type").orElse("no type");
            case BYTES -> String.valueOf(meant.get().content().size());
            case SHA256 -> sha256(meant.get());
        };
        String wanted = expressions.fill(check.wanted(), scope).strip();
        boolean same = check.fact() == Check.PartIs.Fact.TYPE && !wanted.contains(";")
                ? found.split(";")[0].strip().equalsIgnoreCase(wanted)
                : found.equalsIgnoreCase(wanted);
        return decided(same, check, wanted, found, "part " + check.part());
    }

    private static String sha256(Part part) {
        try (InputStream in = new DigestInputStream(part.content().open(0), MessageDigest.getInstance("SHA-256"))) {
            in.transferTo(java.io.OutputStream.nullOutputStream());
            return HexFormat.of()
                    .formatHex(((DigestInputStream) in).getMessageDigest().digest());
        } catch (IOException e) {
            throw dev.mockbell.content.Content.unreadable(e);
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has it", e);
        }
    }

    @Override
    public CheckResult secured(Check.Secured check) {
        response(check, "");
        return answer.security()
                .map(words -> CheckResult.passed(check.title(), words, ""))
                .orElseGet(() -> CheckResult.failed(
                        check.title(), "", "nothing was verified; the security profile must check answers", ""));
    }

    @Override
    public CheckResult not(Check.Not check) {
        CheckResult inner = check.of().accept(this);
        String found = inner.found().isEmpty() ? "that it does" : inner.found();
        return inner.passed()
                ? CheckResult.failed(check.title(), "otherwise", found, inner.where())
                : CheckResult.passed(check.title(), inner.found(), inner.where());
    }

    @Override
    public CheckResult stopping(Check.Stopping check) {
        return check.of().accept(this);
    }
}
