package dev.mockbell.check;

import dev.mockbell.content.Part;
import dev.mockbell.contract.Attachment;
import dev.mockbell.validation.MessageValidator.Breach;
import dev.mockbell.xml.Place;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Holds the parts beside an envelope against those that the contract names. A part is known by its Content-ID, which begins with
 * its name and an equals sign (WS-I Attachments Profile 1.0 R2933); one that is not named so by its type. Parts that the contract
 * does not name are no breach.
 */
final class BesideParts {
    private BesideParts() {}

    static List<Breach> breaches(List<Attachment> due, List<Part> came) {
        List<Breach> found = new ArrayList<>();
        List<Part> left = new ArrayList<>(came);
        List<Attachment> unnamed = new ArrayList<>();
        for (Attachment one : due) {
            Optional<Part> named =
                    left.stream().filter(p -> one.part().equals(name(p))).findFirst();
            if (named.isEmpty()) {
                unnamed.add(one);
                continue;
            }
            left.remove(named.get());
            if (!one.mayBe(type(named.get()))) {
                found.add(breach(
                        one,
                        "The part “" + one.part() + "” beside the envelope should be " + one.words() + ", is "
                                + type(named.get())));
            }
        }
        for (Attachment one : unnamed) {
            Optional<Part> like = left.stream().filter(p -> one.mayBe(type(p))).findFirst();
            like.ifPresentOrElse(
                    left::remove,
                    () -> found.add(breach(
                            one,
                            "The part “" + one.part() + "” beside the envelope, " + one.words() + ", is missing; "
                                    + (came.size() == 1 ? "1 part came" : came.size() + " parts came"))));
        }
        return found;
    }

    private static Breach breach(Attachment of, String text) {
        return new Breach(text, "part " + of.part(), Place.in(""));
    }

    private static String type(Part part) {
        // RFC 2045 §5.2
        return part.header("Content-Type").orElse("text/plain");
    }

    private static String name(Part part) {
        String id = part.id().orElse("");
        int end = id.indexOf('=');
        if (end <= 0) {
            return "";
        }
        try {
            return URLDecoder.decode(id.substring(0, end).replace("+", "%2B"), StandardCharsets.UTF_8);
        } catch (IllegalArgumentException notEscaped) {
            return id.substring(0, end);
        }
    }
}
