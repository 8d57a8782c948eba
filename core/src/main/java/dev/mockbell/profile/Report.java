package dev.mockbell.profile;

import dev.mockbell.xml.Place;
import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.List;
import org.w3c.dom.Element;

/** Takes the breaches of one rule. */
final class Report {
    private final Rule rule;
    private final List<Breach> breaches = new ArrayList<>();

    Report(Rule rule) {
        this.rule = rule;
    }

    void at(Element element, String text) {
        at(Xml.placeOf(element), text);
    }

    void at(Place place, String text) {
        breaches.add(new Breach(rule.number(), rule.must(), text, rule.advice(), place));
    }

    List<Breach> breaches() {
        return breaches;
    }
}
