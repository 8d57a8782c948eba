package dev.mockbell.demo.huts;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlType;

/** How to reach the party, by one way. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlType(
        name = "Contact",
        propOrder = {"phone", "email"})
public final class Contact {
    public String phone;

    public String email;
}
