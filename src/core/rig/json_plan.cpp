// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/json_plan.h"

#include "rig/json_values.h"
#include "rig/plan_fields.h"

namespace rigmatch::rig {
namespace {

template <class Owner>
void writeFields(Json& json, const FieldTable<Owner>& table, const Owner& owner) {
    for (const auto& field : table.numbers) json[field.key] = owner.*field.value;
    for (const auto& field : table.texts) json[field.key] = owner.*field.value;
    for (const auto& field : table.truths) json[field.key] = owner.*field.value;
}

template <class Owner>
void readFields(ObjectReader& object, const FieldTable<Owner>& table, Owner& owner) {
    for (const auto& field : table.numbers) {
        owner.*field.value = object.number(field.key, owner.*field.value);
    }
    for (const auto& field : table.texts) {
        owner.*field.value = object.text(field.key, owner.*field.value);
    }
    for (const auto& field : table.truths) {
        owner.*field.value = object.truth(field.key, owner.*field.value);
    }
}

template <class Owner>
void checkNumbers(const ObjectReader& object, const FieldTable<Owner>& table, const Owner& owner) {
    for (const auto& field : table.numbers) {
        if (const auto valid = checkField(field, owner.*field.value); !valid) {
            throw JsonFailure{object.at(field.key),
                              base::say("json.outRange", {{"detail", valid.error().detail}})};
        }
    }
}

Json objectJson(const PlanObject& object) {
    Json json{{"id", object.id}, {"kind", kindName(object.kind)}, {"name", object.name}};
    writeFields(json, planFields(object.kind), object);
    return withUnknown(std::move(json), object.unknownFields);
}

PlanObject readObject(const Json& json, const std::string& place) {
    ObjectReader object(json, place);
    PlanObject read;
    read.id = object.text("id");
    const std::string kind = object.text("kind");
    const auto known = kindOfName(kind);
    if (!known)
        throw JsonFailure{object.at("kind"), base::say("json.namesThingNot", {{"kind", kind}})};
    read.kind = *known;
    read.name = object.text("name");
    readFields(object, planFields(read.kind), read);
    read.unknownFields = object.rest();
    return read;
}

Json circuitJson(const Circuit& circuit) {
    Json json{{"id", circuit.id}};
    writeFields(json, circuitFields(), circuit);
    return withUnknown(std::move(json), circuit.unknownFields);
}

Circuit readCircuit(const Json& json, const std::string& place) {
    ObjectReader object(json, place);
    Circuit circuit;
    circuit.id = object.text("id");
    readFields(object, circuitFields(), circuit);
    circuit.unknownFields = object.rest();
    return circuit;
}

OwnedLens readOwnedLens(const Json& json, const std::string& place) {
    ObjectReader object(json, place);
    OwnedLens lens;
    lens.shortFocalMm = object.number("shortFocalMm", lens.shortFocalMm);
    lens.longFocalMm = object.number("longFocalMm", lens.shortFocalMm);
    lens.largestAperture = object.number("largestAperture", lens.largestAperture);
    lens.unknownFields = object.rest();
    if (!(lens.shortFocalMm >= 1.0 && lens.longFocalMm >= lens.shortFocalMm &&
          lens.longFocalMm <= 2000.0 && lens.largestAperture >= 0.5 &&
          lens.largestAperture <= 64.0)) {
        throw JsonFailure{place, base::say("json.noPossibleLens")};
    }
    return lens;
}

}  // namespace

Json planJson(const SetPlan& plan) {
    Json json;
    writeFields(json, roomFields(), plan);
    Json objects = Json::array();
    for (const PlanObject& object : plan.objects) objects.push_back(objectJson(object));
    Json circuits = Json::array();
    for (const Circuit& circuit : plan.circuits) circuits.push_back(circuitJson(circuit));
    Json lenses = Json::array();
    for (const OwnedLens& lens : plan.lenses) {
        lenses.push_back({{"shortFocalMm", lens.shortFocalMm},
                          {"longFocalMm", lens.longFocalMm},
                          {"largestAperture", lens.largestAperture}});
        lenses.back() = withUnknown(std::move(lenses.back()), lens.unknownFields);
    }
    json["objects"] = objects;
    json["circuits"] = circuits;
    json["lenses"] = lenses;
    return withUnknown(std::move(json), plan.unknownFields);
}

SetPlan readPlan(const Json& json, const std::string& place) {
    ObjectReader object(json, place);
    SetPlan plan;
    readFields(object, roomFields(), plan);
    plan.objects = readList(object, "objects", readObject);
    plan.circuits = readList(object, "circuits", readCircuit);
    plan.lenses = readList(object, "lenses", readOwnedLens);
    plan.unknownFields = object.rest();
    if (const auto valid = checkPlan(plan); !valid) {
        throw JsonFailure{
            place,
            base::say("json.notHold",
                      {{"what", valid.error().what}, {"detail", valid.error().detail}})};
    }
    return plan;
}

Json choicesJson(const Choices& choices) {
    Json json = Json::object();
    writeFields(json, choiceFields(), choices);
    return withUnknown(std::move(json), choices.unknownFields);
}

Choices readChoices(const Json& json, const std::string& place) {
    ObjectReader object(json, place);
    Choices choices;
    readFields(object, choiceFields(), choices);
    choices.unknownFields = object.rest();
    checkNumbers(object, choiceFields(), choices);
    return choices;
}

Json equipmentJson(const Equipment& equipment) {
    Json json = Json::object();
    writeFields(json, equipmentFields(), equipment);
    return withUnknown(std::move(json), equipment.unknownFields);
}

Equipment readEquipment(const Json& json, const std::string& place) {
    ObjectReader object(json, place);
    Equipment equipment;
    readFields(object, equipmentFields(), equipment);
    equipment.unknownFields = object.rest();
    checkNumbers(object, equipmentFields(), equipment);
    return equipment;
}

}  // namespace rigmatch::rig
