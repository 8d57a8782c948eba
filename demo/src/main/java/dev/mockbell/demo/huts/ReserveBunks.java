package dev.mockbell.demo.huts;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlElement;
import jakarta.xml.bind.annotation.XmlRootElement;
import jakarta.xml.bind.annotation.XmlSchemaType;
import jakarta.xml.bind.annotation.XmlType;
import javax.xml.datatype.XMLGregorianCalendar;

/** Asks for bunks. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlRootElement(name = "ReserveBunks")
@XmlType(
        name = "",
        propOrder = {"hutId", "arrival", "nights", "party", "board", "memberNo", "dogs", "contact"})
public final class ReserveBunks {
    @XmlElement(required = true)
    public String hutId;

    @XmlSchemaType(name = "date")
    @XmlElement(required = true)
    public XMLGregorianCalendar arrival;

    public int nights;

    @XmlElement(required = true)
    public Party party;

    public String board;

    public String memberNo;

    public Integer dogs;

    public Contact contact;
}
